import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

export default defineConfig({
  // relative, so that a path prefix behind a proxy needs no other build
  base: "./",
  plugins: [react(), tailwindcss()],
  build: {
    outDir: "../src/vessel/web",
    emptyOutDir: true,
    // otherwise every icon is a request of its own
    rolldownOptions: {
      output: {
        codeSplitting: {
          groups: [{ name: "icons", test: /node_modules\/lucide-react/ }],
        },
      },
    },
  },
  test: { environment: "jsdom" },
  server: { proxy: { "/api": "http://127.0.0.1:8420" } },
});
