import { createRoot } from "react-dom/client";

import "./chat.css";
import { Page } from "./Page";
import { onAir, onDraft } from "./talk";

const root = document.getElementById("root");
// The address of the page is /p/SLUG, or /rehearse/DIALOGUE for an author's draft.
const [, where, name = ""] = location.pathname.split("/").map(decodeURIComponent);
if (root) createRoot(root).render(<Page side={where === "rehearse" ? onDraft(name) : onAir(name)} />);
