/** What every PIN field has in common. */
export const digits = {
	inputMode: "numeric",
	autoComplete: "off",
	maxLength: 8,
	pattern: "[0-9]{4,8}",
	required: true,
	type: "password",
} as const;
