import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

export default defineConfig({
  root: import.meta.dirname,
  base: "/assets/app/",
  plugins: [react(), tailwindcss()],
  build: {
    outDir: "../dist/app",
    emptyOutDir: true,
    assetsDir: "assets",
    modulePreload: { polyfill: false },
    assetsInlineLimit: 0,
    // Assets are served as /assets/app/NAME, without a folder between.
    rolldownOptions: {
      output: {
        entryFileNames: "assets/[name]-[hash].js",
        chunkFileNames: "assets/[name]-[hash].js",
        assetFileNames: "assets/[name]-[hash][extname]",
      },
    },
  },
  experimental: { renderBuiltUrl: (name) => `/assets/app/${name.replace(/^assets\//, "")}` },
});
