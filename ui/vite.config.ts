import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

export default defineConfig({
	plugins: [react(), tailwindcss()],
	build: { emptyOutDir: true, assetsInlineLimit: 0, chunkSizeWarningLimit: 900 },
	server: { proxy: { "/api": "http://127.0.0.1:8080" } },
	// A test that waits for its turn on a busy machine has not failed.
	test: { include: ["src/**/*.test.ts"], testTimeout: 30_000 },
});
