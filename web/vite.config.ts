import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

export default defineConfig({
  plugins: [react()],
  build: { assetsInlineLimit: 0, target: "es2022", chunkSizeWarningLimit: 1200 },
  // The other tests may have both processors meanwhile.
  test: { testTimeout: 20_000 },
  server: { proxy: { "/api": "http://127.0.0.1:8080" } },
});
