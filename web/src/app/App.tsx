import type { QueryClient } from "@tanstack/react-query";
import { QueryClientProvider } from "@tanstack/react-query";
import { RouterProvider } from "@tanstack/react-router";
import type { router } from "./router";

interface Props {
  queries: QueryClient;
  router: typeof router;
}

/** The page: what it has been answered, and where it stands. */
export const App = ({ queries, router }: Props) => (
  <QueryClientProvider client={queries}>
    <RouterProvider router={router} />
  </QueryClientProvider>
);
