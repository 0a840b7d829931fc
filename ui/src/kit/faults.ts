import { ProblemError } from "../api/client";

/** Takes the faults of a refused request to the fields they belong to: /packSize to packSize, /steps/0/name to steps.0.name, and what lies inside a field to that field. */
export function placeFaults(error: unknown, values: object): { field: string; message: string }[] {
	if (!(error instanceof ProblemError)) return [];
	return (error.problem.errors ?? []).flatMap(({ path, message }) => {
		const parts = path.split("/").slice(1);
		for (let n = parts.length; n > 0; n--) {
			const found = parts.slice(0, n).reduce<unknown>((v, key) => (v as Record<string, unknown> | undefined)?.[key], values);
			if (found !== undefined) return [{ field: parts.slice(0, n).join("."), message }];
		}
		return [];
	});
}

/** A decimal number as it is typed, with a point or a comma. */
export const decimal = /^\d{1,6}([.,]\d{1,3})?$/;

/** The same as the server reads it. */
export const asDecimal = (typed: string) => typed.trim().replace(",", ".");

/** The fields in which two texts of the same thing differ. */
export function differences<T extends object, K extends keyof T & string>(mine: T, theirs: T, fields: readonly K[]): K[] {
	return fields.filter((f) => inWords(mine[f]) !== inWords(theirs[f]));
}

/** A value as it is read: lists with commas, in an order that does not matter. */
export function inWords(value: unknown): string {
	return Array.isArray(value) ? [...value].map(String).sort().join(", ") : String(value ?? "");
}
