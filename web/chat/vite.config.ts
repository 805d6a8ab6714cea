import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

export default defineConfig({
  root: import.meta.dirname,
  base: "/assets/chat/",
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
  build: {
    outDir: "../dist/chat",
    emptyOutDir: true,
    assetsDir: "assets",
    modulePreload: { polyfill: false },
    assetsInlineLimit: 0,
    // Assets are served as /assets/chat/NAME, without a folder between.
    rolldownOptions: {
      output: {
        entryFileNames: "assets/[name]-[hash].js",
        chunkFileNames: "assets/[name]-[hash].js",
        assetFileNames: "assets/[name]-[hash][extname]",
      },
    },
  },
  experimental: { renderBuiltUrl: (name) => `/assets/chat/${name.replace(/^assets\//, "")}` },
});
