import { createRoot } from "react-dom/client";

import "./chat.css";
import { Page } from "./Page";
import { onPlacement } from "./placed";
import { onAir, onDraft } from "./talk";

const root = document.getElementById("root");
// The address of the page is /p/SLUG, /at/ADDRESS or /f/ID for a placement, or /rehearse/DIALOGUE for an author's draft.
const [, where, name = ""] = location.pathname.split("/").map(decodeURIComponent);
const side = () => {
  if (where === "rehearse") return onDraft(name);
  return where === "at" || where === "f" ? onPlacement(name, where === "f") : onAir(name);
};
if (root) createRoot(root).render(<Page side={side()} />);
