import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";
import { PATIENCE } from "./src/testing/patience.ts";

export default defineConfig({
  plugins: [react(), tailwindcss()],
  resolve: { alias: { "@": new URL("./src", import.meta.url).pathname } },
  build: { outDir: "../src/hearth_yield/api/static", emptyOutDir: true, assetsInlineLimit: 0 },
  server: {
    host: "127.0.0.1",
    port: 5173,
    strictPort: true,
    // The product answers only its own pages, so the proxy speaks as one of them.
    proxy: {
      "/api": {
        target: "http://127.0.0.1:8000",
        changeOrigin: true,
        headers: { origin: "http://127.0.0.1:8000" },
      },
    },
  },
  test: {
    projects: [
      { extends: true, test: { name: "unit", include: ["src/**/*.test.ts"], environment: "node" } },
      {
        extends: true,
        // Elements as in a build: what React notes of each one for its tools is a fifth of the work.
        oxc: { jsx: { development: false } },
        test: {
          name: "page",
          include: ["src/**/*.test.tsx"],
          environment: "happy-dom",
          environmentOptions: { happyDOM: { url: "http://127.0.0.1/" } },
          setupFiles: "src/testing/setup.ts",
          testTimeout: 5 * PATIENCE,
          hookTimeout: 5 * PATIENCE,
          isolate: false,
          maxWorkers: 2,
        },
      },
    ],
  },
});
