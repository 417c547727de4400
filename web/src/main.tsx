import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { newQueries } from "./api/queries";
import { App } from "./app/App";
import { router } from "./app/router";
import { applyTheme } from "./app/theme";
import "./styles.css";

applyTheme();
const root = document.getElementById("root");
if (root) {
  createRoot(root).render(
    <StrictMode>
      <App queries={newQueries()} router={router} />
    </StrictMode>,
  );
}
