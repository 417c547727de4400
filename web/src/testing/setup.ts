/** What a page meets in a browser and happy-dom lacks; what is kept between tests goes. */
import { cleanup, configure } from "@testing-library/react";
import * as React from "react";
import { afterEach, beforeEach, expect, vi } from "vitest";
import { fetched } from "./api";
import { PATIENCE } from "./patience";

// React notes a stack for every element until it has noted enough of them; a fifth of the time went there.
const noted = Reflect.get(React, "__CLIENT_INTERNALS_DO_NOT_USE_OR_WARN_USERS_THEY_CANNOT_UPGRADE");
Object.defineProperty(noted, "recentlyCreatedOwnerStacks", { get: () => 1e9, set: () => {} });

vi.stubGlobal("fetch", fetched);
Object.defineProperty(navigator, "language", { configurable: true, value: "en-GB" });
const SIZES = { offsetWidth: 1100, clientWidth: 1100, offsetHeight: 800, clientHeight: 800 };
for (const [name, value] of Object.entries(SIZES)) {
  Object.defineProperty(HTMLElement.prototype, name, { configurable: true, get: () => value });
}
Element.prototype.scrollIntoView = () => undefined;

configure({
  asyncUtilTimeout: PATIENCE,
  defaultHidden: true,
  getElementError: (message) => new Error(message?.slice(0, 3000)),
});

let wrong: string[] = [];
beforeEach(() => {
  wrong = [];
  vi.spyOn(console, "error").mockImplementation((...words) => wrong.push(words.join(" ")));
});

afterEach(() => {
  cleanup();
  localStorage.clear();
  sessionStorage.clear();
  vi.restoreAllMocks();
  expect(wrong).toEqual([]);
});
