/** How an intent looks: a colour and a line pattern, so that it reads without colour and in print. */
export type IntentLook = { colour: string; night: string; dash: string; name: string };

const looks: Record<string, IntentLook> = {
	drain: { colour: "#2f6d73", night: "#9ccfb6", dash: "0.1 0.55", name: "drain" },
	open: { colour: "#3d5a3b", night: "#c3d59a", dash: "0.1 0.35 0.9 0.35", name: "open" },
	lift: { colour: "#b8421c", night: "#f0a868", dash: "", name: "lift" },
	release: { colour: "#7a2f5c", night: "#e3a9b4", dash: "0.7 0.35", name: "release" },
	tone: { colour: "#6a4a12", night: "#e2c37a", dash: "0.3 0.3", name: "tone" },
	soothe: { colour: "#44586b", night: "#d9cdb4", dash: "1.4 0.5", name: "soothe" },
	stimulate: { colour: "#8a5a00", night: "#f3cf6e", dash: "0.15 0.25", name: "stimulate" },
};

const plain: IntentLook = { colour: "#6b5263", night: "#c9b49c", dash: "2.2 0.7", name: "other" };

export function intentLook(intent: string): IntentLook {
	return looks[intent] ?? plain;
}

export const intentsInPlay = ["open", "drain", "lift", "release", "soothe"] as const;
