import react from "@vitejs/plugin-react";
import { loadEnv } from "vite";
import { defineConfig } from "vitest/config";

export default defineConfig(({ mode }) => ({
  plugins: [react()],
  // Under ./saucer dev the page comes from Vite and all answers from the server, which is told the address
  // that the browser asked.
  server: {
    proxy: {
      "/api": {
        target: loadEnv(mode, ".", "SAUCER_").SAUCER_SERVER ?? "http://127.0.0.1:8001",
        changeOrigin: false,
      },
    },
  },
  build: { outDir: "dist", assetsDir: "assets", chunkSizeWarningLimit: 1200 },
  test: {
    environment: "jsdom",
    include: ["tests/**/*.test.{ts,tsx}"],
    setupFiles: ["tests/setup.ts"],
    testTimeout: 30_000,
  },
}));
