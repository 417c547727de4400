/** One window for all files of a worker: a new one for each costs more than most of their tests. What is
 * kept between tests goes in setup.ts. */
import { builtinEnvironments, type Environment } from "vitest/runtime";

let made: ReturnType<(typeof builtinEnvironments)["happy-dom"]["setup"]> | undefined;

export default {
  name: "one-window",
  viteEnvironment: "client",
  async setup(global, options) {
    made ??= builtinEnvironments["happy-dom"].setup(global, options);
    await made;
    return { teardown: () => undefined };
  },
} satisfies Environment;
