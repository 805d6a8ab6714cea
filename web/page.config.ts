/** What the two pages share of their build: each is served from /assets/NAME/ by the binary that carries it. */
import type { UserConfig } from "vite";

export function page(name: "app" | "chat", root: string): UserConfig {
  return {
    root,
    base: `/assets/${name}/`,
    build: {
      outDir: `../dist/${name}`,
      emptyOutDir: true,
      assetsDir: "assets",
      modulePreload: { polyfill: false },
      assetsInlineLimit: 0,
      chunkSizeWarningLimit: 700,
      rolldownOptions: {
        output: {
          entryFileNames: "assets/[name]-[hash].js",
          chunkFileNames: "assets/[name]-[hash].js",
          assetFileNames: "assets/[name]-[hash][extname]",
        },
      },
    },
    // Assets are served as /assets/NAME/FILE, without a folder between.
    experimental: { renderBuiltUrl: (file) => `/assets/${name}/${file.replace(/^assets\//, "")}` },
  };
}
