import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { VitePWA } from "vite-plugin-pwa";
import { defineConfig } from "vitest/config";

/** What makes Eskel an application of its own on a tablet: its name, its mark, and the worker that opens it without a server. */
const installed = VitePWA({
  strategies: "injectManifest",
  srcDir: "src",
  filename: "worker.ts",
  injectRegister: false,
  // The page itself is served with a policy of its own each time: the worker keeps it as it came.
  injectManifest: { globPatterns: ["assets/*", "mark.svg"], injectionPoint: "self.__WB_MANIFEST" },
  manifest: {
    name: "Eskel",
    short_name: "Eskel",
    description: "Torch work at the bench: planned, rehearsed, carried out, remembered.",
    start_url: "/work",
    display: "standalone",
    background_color: "#100f0d",
    theme_color: "#100f0d",
    icons: [{ src: "/mark.svg", sizes: "any", type: "image/svg+xml" }],
  },
});

export default defineConfig({
  plugins: [react(), tailwindcss(), installed],
  server: { proxy: { "/api": "http://127.0.0.1:8765" } },
  // One environment for all files: half the time of one for each; what a test stubs is put back after it.
  test: {
    setupFiles: ["tests/setup.ts"],
    // A whole page takes up to two seconds on an idle machine, and several times as long on a shared one that is busy.
    testTimeout: 20_000,
    isolate: false,
    pool: "threads",
    restoreMocks: true,
    unstubGlobals: true,
    unstubEnvs: true,
  },
  build: { target: "es2022", sourcemap: false, reportCompressedSize: true },
});
