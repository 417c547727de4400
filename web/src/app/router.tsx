import {
  createRootRoute,
  createRoute,
  createRouter,
  lazyRouteComponent,
  type RouterHistory,
} from "@tanstack/react-router";
import { readView } from "@/state/view";
import { NotHere } from "./NotHere";
import { Shell } from "./Shell";

const root = createRootRoute({
  component: Shell,
  validateSearch: readView,
  notFoundComponent: NotHere,
});

const home = createRoute({
  getParentRoute: () => root,
  path: "/",
  component: lazyRouteComponent(() => import("@/places/hearth/HearthPage"), "HearthPage"),
});

const payers = createRoute({
  getParentRoute: () => root,
  path: "/payers",
  component: lazyRouteComponent(() => import("@/places/payers/PayersPage"), "PayersPage"),
});

const strained = createRoute({
  getParentRoute: () => root,
  path: "/payers/strain",
  component: lazyRouteComponent(() => import("@/places/payers/StrainedPage"), "StrainedPage"),
});

const breadth = createRoute({
  getParentRoute: () => root,
  path: "/payers/breadth",
  component: lazyRouteComponent(() => import("@/places/payers/BreadthPage"), "BreadthPage"),
});

const review = createRoute({
  getParentRoute: () => root,
  path: "/review/$exchange/$symbol",
  component: lazyRouteComponent(() => import("@/places/review/ReviewPage"), "ReviewPage"),
});

const sources = createRoute({
  getParentRoute: () => root,
  path: "/sources",
  component: lazyRouteComponent(() => import("@/places/sources/SourcesPage"), "SourcesPage"),
});

const rules = createRoute({
  getParentRoute: () => root,
  path: "/house-rules",
  component: lazyRouteComponent(() => import("@/places/rules/HouseRulesPage"), "HouseRulesPage"),
});

const compare = createRoute({
  getParentRoute: () => root,
  path: "/compare",
  component: lazyRouteComponent(() => import("@/places/compare/ComparePage"), "ComparePage"),
});

const journal = createRoute({
  getParentRoute: () => root,
  path: "/journal",
  component: lazyRouteComponent(() => import("@/places/journal/JournalPage"), "JournalPage"),
});

const watch = createRoute({
  getParentRoute: () => root,
  path: "/watch",
  component: lazyRouteComponent(() => import("@/places/watch/WatchPage"), "WatchPage"),
});

const holdings = createRoute({
  getParentRoute: () => root,
  path: "/holdings",
  component: lazyRouteComponent(() => import("@/places/holdings/HoldingsPage"), "HoldingsPage"),
});

const glossary = createRoute({
  getParentRoute: () => root,
  path: "/glossary",
  component: lazyRouteComponent(() => import("@/places/glossary/GlossaryPage"), "GlossaryPage"),
});

const facts = createRoute({
  getParentRoute: () => root,
  path: "/sources/$exchange/$symbol",
  component: lazyRouteComponent(() => import("@/places/sources/FactsPage"), "FactsPage"),
});

const routeTree = root.addChildren([
  home,
  payers,
  strained,
  breadth,
  review,
  compare,
  watch,
  holdings,
  journal,
  rules,
  sources,
  glossary,
  facts,
]);

/** history: where the address is kept; the browser's own where none is given. */
export const routerOf = (history?: RouterHistory) =>
  createRouter({ routeTree, defaultPreload: "intent", scrollRestoration: true, history });

export const router = routerOf();

declare module "@tanstack/react-router" {
  interface Register {
    router: typeof router;
  }
}
