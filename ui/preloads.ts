import { readFileSync } from "node:fs";
import { join, resolve } from "node:path";
import type { Plugin } from "vite";

// Where routes are named together with the modules of their pages: those for whoever is signed in, and those that need no account.
const inside = ["src/app/Inside.tsx", /path: "([^"]+)",[^]*?import\("([^"]+)"\)/g] as const;
const open = ["src/app/main.tsx", /"(\/\w+)": async \(\) => \(await import\("([^"]+)"\)/g] as const;

/** Writes preloads.json: the scripts that the page of a route is made of, so that the server can name them all at once. */
export function preloads(): Plugin {
	return {
		name: "preloads",
		generateBundle(_, bundle) {
			const chunks = Object.values(bundle).filter((c) => c.type === "chunk");
			const byName = new Map(chunks.map((c) => [c.fileName, c]));
			const all = (name: string, into = new Set<string>()) => {
				if (into.has(name)) return into;
				into.add(name);
				for (const i of byName.get(name)?.imports ?? []) all(i, into);
				return into;
			};
			const entry = all(chunks.find((c) => c.isEntry)!.fileName);
			const chunkOf = (module: string) => {
				const chunk = chunks.find((c) => c.moduleIds.includes(resolve(module)));
				return chunk?.fileName ?? this.error(`no chunk holds ${module}`);
			};
			const of = (...modules: string[]) => {
				const files = new Set<string>();
				for (const m of modules) all(chunkOf(m), files);
				return [...files].filter((f) => !entry.has(f));
			};
			const pages = ([file, route]: typeof inside | typeof open, ...around: string[]) => {
				const found = [...readFileSync(file, "utf8").matchAll(route)];
				for (const [text, path] of found) if (text.includes("createRoute")) this.error(`the route ${path} names no page`);
				return Object.fromEntries(found.map(([, path, module]) => [path!, of(...around, join("src/app", `${module}.tsx`))]));
			};
			const door = "src/app/Studio.tsx";
			const written = { door: of(door), open: pages(open), inside: pages(inside, door, inside[0]) };
			this.emitFile({ type: "asset", fileName: "preloads.json", source: JSON.stringify(written) });
		},
	};
}
