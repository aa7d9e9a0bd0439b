import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

export default defineConfig({
  // relative, so that a path prefix behind a proxy needs no other build
  base: "./",
  plugins: [react(), tailwindcss()],
  build: { outDir: "../src/vessel/web", emptyOutDir: true },
  test: { environment: "jsdom" },
  server: { proxy: { "/api": "http://127.0.0.1:8420" } },
});
