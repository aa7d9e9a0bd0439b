import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

export default defineConfig({
  // relative, so that a path prefix behind a proxy needs no other build
  base: "./",
  plugins: [react(), tailwindcss()],
  build: { outDir: "../src/vessel/web", emptyOutDir: true },
  server: { proxy: { "/api": "http://127.0.0.1:8420" } },
});
