import react from "@vitejs/plugin-react";
import type { Plugin } from "vite";
import { VitePWA } from "vite-plugin-pwa";
import { defineConfig } from "vitest/config";
import { groups, resolveDependencies } from "./vite.chunks";
import { looks } from "./vite.looks";

/** The whole application on the device: what a screen needs is there when the server is not. */
const onDevice = VitePWA({
  strategies: "generateSW",
  // We have a manifest, and register it after the first picture (main.tsx).
  manifest: false,
  injectRegister: false,
  workbox: {
    globPatterns: ["**/*.{js,css,html,svg,png,webmanifest}", "assets/atkinson*.woff2"],
    // The chart library is fetched by who opens a chart, and kept from then on.
    globIgnores: ["assets/NullChart-*"],
    // A page and what it fetches later are of one version: the newest waits until it is asked for (api/application.ts).
    navigateFallback: "/index.html",
    navigateFallbackDenylist: [/^\/api\//, /^\/rules\//, /^\/calendar\//],
    runtimeCaching: [
      // The rules for judging here (web/rules): a folder is named after what is in it, and which is the newest is asked.
      {
        urlPattern: ({ url }) => url.pathname === "/rules/current.json",
        handler: "NetworkFirst",
        options: { cacheName: "rules" },
      },
      {
        urlPattern: ({ url }) => url.pathname.startsWith("/rules/"),
        handler: "CacheFirst",
        options: { cacheName: "rules" },
      },
      { urlPattern: ({ url }) => url.pathname.startsWith("/assets/NullChart-"), handler: "CacheFirst" },
      // The typesetter and its fonts (src/typeset): a name tells its content, and those of earlier versions go.
      {
        urlPattern: ({ url }) => /^\/assets\/.*\.(wasm|ttf)$/.test(url.pathname),
        handler: "CacheFirst",
        options: { cacheName: "typesetter", expiration: { maxEntries: 12 } },
      },
    ],
    skipWaiting: false,
    clientsClaim: true,
    cleanupOutdatedCaches: true,
    inlineWorkboxRuntime: true,
    sourcemap: false,
  },
});

/** What nothing uses of the router is left out: its package does not say that to make a part of it has no effect. */
const routerInParts: Plugin = {
  name: "router-in-parts",
  apply: "build",
  transform: {
    filter: { id: /node_modules\/react-router\// },
    handler: (code) => ({
      code: code
        .replace(/^\w+\.displayName = "\w+";$/gm, "")
        .replace(/= (React\d*\.(?:forwardRef|createContext|memo)\()/g, "= /* @__PURE__ */ $1"),
      map: null,
    }),
  },
};

export default defineConfig({
  plugins: [looks(), routerInParts, react(), onDevice],
  worker: { format: "es" },
  build: {
    assetsInlineLimit: 0,
    target: "es2022",
    chunkSizeWarningLimit: 1200,
    modulePreload: { resolveDependencies },
    rolldownOptions: { output: { codeSplitting: { groups } } },
  },
  // The other tests may have both processors meanwhile.
  test: {
    testTimeout: 120_000,
    projects: [
      // What draws nothing shares one world: it is the imports that take the time.
      { extends: true, test: { name: "model", include: ["src/**/*.test.ts"], isolate: false } },
      // A screen's test has stand-ins of its own for what lies below it: ours is loaded anew for each, what lies in
      // node_modules, which is most of it, once.
      {
        extends: true,
        test: {
          name: "screens",
          include: ["src/**/*.test.tsx"],
          environment: "happy-dom",
          isolate: false,
          setupFiles: ["vitest.anew.ts"],
        },
      },
    ],
  },
  server: { proxy: { "/api": "http://127.0.0.1:8080", "/rules": "http://127.0.0.1:8080" } },
});
