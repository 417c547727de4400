/** The whole page at an address, in a DOM, with answers of the API, and a person at it. */
import {
  createMemoryHistory,
  createRootRoute,
  createRouter,
  type RouterHistory,
} from "@tanstack/react-router";
import { fireEvent, render, screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import axe from "axe-core";
import { createContext, type ReactElement, useContext } from "react";
import { expect } from "vitest";
import type { PayerKey } from "@/api/hooks";
import { newQueries } from "@/api/queries";
import { App } from "@/app/App";
import { type router, routerOf } from "@/app/router";
import { StagesDrawn } from "@/places/review/ReviewPage";
import { readView } from "@/state/view";
import { PayerContext } from "@/ui/Fig";
import { begin, type Scene } from "./api";

const NOWHERE = document.createElement("i");

/** Looks again every so often until it is so. Not at each change of the page, as the library does: on a
 * page that is being drawn that would be most of the work. */
export const until = <T,>(look: () => T | Promise<T>): Promise<T> =>
  waitFor(look, { container: NOWHERE, interval: 40 });

/** A part of the page: as it stands at each look, or an element that stays. */
type Where = Element | (() => Element | null);
type Name = string | RegExp;

const Piece = createContext<ReactElement | null>(null);

/** An address that shows one part of the page and nothing else. */
const routerOfPiece = (history: RouterHistory) =>
  createRouter({
    routeTree: createRootRoute({
      component: () => useContext(Piece),
      validateSearch: readView,
      notFoundComponent: () => null,
    }),
    history,
  }) as unknown as typeof router;

/** A part of the page by itself, as of a payer. Returns it, what it comes to say of the address, and a
 * way to give it something else. */
export async function mount(piece: ReactElement, payer: PayerKey | null = null) {
  const history = createMemoryHistory({ initialEntries: ["/"] });
  const [queries, router] = [newQueries(), routerOfPiece(history)];
  const whole = (part: ReactElement) => (
    <Piece value={<PayerContext value={payer}>{part}</PayerContext>}>
      <App queries={queries} router={router} />
    </Piece>
  );
  const page = render(whole(piece));
  await until(() => expect(router.state.matches[0]?.status).toBe("success"));
  return {
    box: page.container as HTMLElement,
    user: userEvent.setup({ delay: null }),
    url: () => decodeURIComponent(history.location.href),
    give: (part: ReactElement) => page.rerender(whole(part)),
  };
}

/** Opens the page as a browser would. Returns the person at it, and where the page has come to. Of a
 * review whose stage the address names, that stage alone is drawn, in the page around it; whole: all. */
export async function open(address: string, scene: Scene = "twenty", whole = false) {
  await begin(scene);
  return visit(address, whole);
}

/** The same on what stands already: a reload, another address, another tab. */
export function visit(address: string, whole = false) {
  const history = createMemoryHistory({ initialEntries: [address] });
  const queries = newQueries();
  const stage = whole ? undefined : /^\/review\/.*[?&]stage=(\w+)/.exec(address)?.[1];
  const page = render(
    <StagesDrawn value={stage === undefined ? null : [stage]}>
      <App queries={queries} router={routerOf(history)} />
    </StagesDrawn>,
  );
  const user = userEvent.setup({ delay: null });
  const url = () => decodeURIComponent(history.location.href);
  /** Nothing is being asked any more. */
  const quiet = () => until(() => expect(queries.isFetching()).toBe(0));
  const go = (to: string) => {
    page.unmount();
    return visit(to, whole);
  };
  return {
    history,
    user,
    go,
    reload: () => go(history.location.href),
    url,
    /** The address comes to say so. */
    asks: (words: Name) => until(() => expect(url()).toMatch(words)),
    quiet,
    /** The focus goes there, once the page is drawn: on its way it takes the focus along itself. */
    focus: async (role: string, name: Name, where?: Where) => {
      await find(role, name, where);
      await quiet();
      (await find(role, name, where)).focus();
    },
    press: (keys: string) => user.keyboard(keys),
    /** Once it can be clicked. */
    click: async (role: string, name: Name, where?: Where) => {
      const enabled = async () => {
        const found = await find(role, name, where);
        expect(isDisabled(found)).toBe(false);
        return found;
      };
      await user.click(await until(enabled));
    },
    /** What stands in a field gives way to this at once, as when it is pasted. */
    fill: async (label: Name, text: string, where?: Where) => {
      fireEvent.change(await field(label, where), { target: { value: text } });
    },
    /** option: its value, or what it says. */
    choose: async (label: Name, option: string, where?: Where) => {
      const offers = async () => (await field(label, where)) as HTMLSelectElement;
      const fits = (o: HTMLOptionElement) => [o.value, o.textContent].includes(option);
      await until(async () => expect([...(await offers()).options].some(fits)).toBe(true));
      await user.selectOptions(await offers(), option);
    },
  };
}

const elementOf = (where: Where): Element | null => (typeof where === "function" ? where() : where);

/** Looks again until the part is there and what is wanted is in it. */
function inPart<T>(where: Where, look: (found: ReturnType<typeof within>) => T): Promise<T> {
  return until(() => {
    const element = elementOf(where);
    if (!element) throw new Error("this part of the page is not there yet");
    return look(within(element as HTMLElement));
  });
}

/** The one thing of this role and name: the page's, or a part's. */
export const find = (role: string, name?: Name, where: Where = document.body) =>
  inPart(where, (found) => found.getByRole(role, { name }));

export const findAll = (role: string, name?: Name, where: Where = document.body) =>
  inPart(where, (found) => found.getAllByRole(role, { name }));

export const field = (label: Name, where: Where = document.body) =>
  inPart(where, (found) => found.getByLabelText(label));

/** Waits until nothing of this role and name is left. */
export const gone = (role: string, name: Name, where: Where = document.body) =>
  until(() => {
    const element = elementOf(where);
    if (element) expect(within(element as HTMLElement).queryByRole(role, { name })).toBeNull();
  });

export const row = (name: Name, where?: Where) => find("row", name, where);

/** A part of the page by its id, as it stands now. */
export const part = (id: string) => () => document.getElementById(id);
export const marked = (id: string) => () => screen.queryByTestId(id);
export const region = (name: Name) => () => screen.queryByRole("region", { name });
export const dialog = () => screen.queryByRole("dialog");

export const isDisabled = (element: HTMLElement) =>
  element.hasAttribute("disabled") || element.getAttribute("aria-disabled") === "true";

const textOf = (where: Where) => (elementOf(where)?.textContent ?? "").replace(/\s/g, " ");

/** Waits until the words are there, whatever elements they stand in: on the page, or in a part. */
export const says = (words: Name, where: Where = document.body) =>
  until(() => expect(textOf(where)).toMatch(words));

/** Waits until they are gone. */
export const saysNot = (words: Name, where: Where = document.body) =>
  until(() => expect(textOf(where)).not.toMatch(words));

/** What axe finds serious or critical that needs no layout and no colours to be seen. */
export async function faults(where: Where = document.body): Promise<string[]> {
  const found = await axe.run(elementOf(where) ?? document.body, {
    runOnly: ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"],
    resultTypes: ["violations"],
    rules: { "color-contrast": { enabled: false }, "target-size": { enabled: false } },
  });
  return found.violations
    .filter((v) => v.impact === "serious" || v.impact === "critical")
    .map((v) => `${v.id}: ${v.nodes[0]?.html.slice(0, 160)}`);
}
