import { defineConfig } from "vite";

/** One file without imports; the server serves it as /e/KEY.js, with the names of query parameters put in. */
export default defineConfig({
  root: import.meta.dirname,
  build: {
    outDir: "../dist/embed",
    emptyOutDir: true,
    target: "es2020",
    lib: { entry: "src/embed.ts", formats: ["iife"], name: "lumboEmbed", fileName: () => "embed.js" },
  },
});
