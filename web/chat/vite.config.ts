import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

import { page } from "../page.config";

export default defineConfig({
  ...page("chat", import.meta.dirname),
  plugins: [react()],
  // The same React source on a tenth of the weight: prospects' phones are slow.
  resolve: {
    alias: {
      "react-dom/client": "preact/compat/client",
      "react-dom": "preact/compat",
      "react/jsx-runtime": "preact/jsx-runtime",
      react: "preact/compat",
    },
  },
});
