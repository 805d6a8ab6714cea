import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

import { page } from "../page.config";

export default defineConfig({ ...page("app", import.meta.dirname), plugins: [react(), tailwindcss()] });
