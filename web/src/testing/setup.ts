/** What a page meets in a browser and happy-dom lacks; what is kept between tests goes. */
import { cleanup, configure } from "@testing-library/react";
import { afterEach, beforeEach, expect, vi } from "vitest";
import { fetched } from "./api";
import { PATIENCE } from "./patience";

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
