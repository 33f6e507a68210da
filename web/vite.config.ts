import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

export default defineConfig({
  plugins: [react(), tailwindcss()],
  server: { proxy: { "/api": "http://127.0.0.1:8765" } },
  // One environment for all files: half the time of one for each; what a test stubs is put back after it.
  test: {
    setupFiles: ["tests/setup.ts"],
    isolate: false,
    pool: "threads",
    restoreMocks: true,
    unstubGlobals: true,
    unstubEnvs: true,
  },
  build: { target: "es2022", sourcemap: false, reportCompressedSize: true },
});
