import { defineConfig, mergeConfig } from "vitest/config";
import { PATIENCE } from "./src/testing/patience.ts";
import vite from "./vite.config.ts";

export default mergeConfig(
  vite,
  defineConfig({
    test: {
      projects: [
        {
          extends: true,
          test: {
            name: "unit",
            include: ["src/**/*.test.ts"],
            environment: "node",
            isolate: false,
            maxWorkers: 1,
          },
        },
        {
          extends: true,
          // Elements as in a build: nothing is noted of each one for tools.
          oxc: { jsx: { development: false } },
          test: {
            name: "page",
            include: ["src/**/*.test.tsx"],
            environment: "./src/testing/environment.ts",
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
  }),
);
