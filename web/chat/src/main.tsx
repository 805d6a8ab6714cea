import { createRoot } from "react-dom/client";

import "./chat.css";
import { Page } from "./Page";

const root = document.getElementById("root");
// The address of the page is /p/SLUG.
const slug = decodeURIComponent(location.pathname.split("/")[2] ?? "");
if (root) createRoot(root).render(<Page slug={slug} />);
