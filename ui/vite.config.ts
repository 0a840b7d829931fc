import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";
import { preloads } from "./preloads.ts";

// What is always loaded together lies together: each file costs its headers, and is compressed for itself. Each of these
// takes what it needs with it, but for what one before it has.
const together: [name: string, test: RegExp][] = [
	["react", /node_modules\/(react|react-dom|scheduler)\//],
	["every-page", /node_modules\/(@tanstack\/(react-query|query-core)|openapi-fetch)\/|src\/(api\/(cache|session)|kit\/kit|kit\/late|kit\/format|words\/client|treatment\/guide\/left)\.tsx?$|vite\/preload-helper/],
	["door", /src\/app\/Studio\.tsx$/],
	["inside", /src\/app\/Inside\.tsx$/],
	["fields", /src\/kit\/fields\.tsx$/],
	["form", /src\/kit\/form\.tsx$/],
	["geometry", /src\/(face\/geometry|words\/catalogue\/face)\.ts$/],
	["face", /src\/face\/(FaceMap|StepDrawing|useDrawing|intents|moving|spell)\.tsx?$/],
];

export default defineConfig({
	plugins: [react(), tailwindcss(), preloads()],
	build: {
		emptyOutDir: true,
		assetsInlineLimit: 0,
		chunkSizeWarningLimit: 900,
		rolldownOptions: {
			output: { codeSplitting: { groups: together.map(([name, test], i) => ({ name, test, priority: together.length - i })) } },
		},
	},
	server: { proxy: { "/api": "http://127.0.0.1:8080" } },
	// A test that waits for its turn on a busy machine has not failed.
	test: { include: ["src/**/*.test.ts"], testTimeout: 30_000 },
});
