import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

interface Modules {
  getModuleInfo: (id: string) => { importedIds: readonly string[] } | null;
}

const FIRST = ["app/main.tsx", "features/jobs/JobsPage.tsx"];
/** Packages that name all their parts in one module, used or not. */
const NAMES_ALL = /node_modules\/(radix-ui|lucide-react)/;
const first = new Set<string>();

/** Whether the list of jobs needs a module: then nothing that it does not need may come in one file with it. */
function isFirst(id: string, modules: Modules): boolean {
  const reach = (at: string) => {
    if (first.has(at) || NAMES_ALL.test(at)) return;
    first.add(at);
    modules.getModuleInfo(at)?.importedIds.forEach(reach);
  };
  if (first.size === 0)
    for (const page of FIRST) reach(decodeURI(new URL(`src/${page}`, import.meta.url).pathname));
  return first.has(id);
}

export default defineConfig({
  // relative, so that a path prefix behind a proxy needs no other build
  base: "./",
  plugins: [react(), tailwindcss()],
  build: {
    outDir: "../src/vessel/web",
    emptyOutDir: true,
    rolldownOptions: {
      output: {
        codeSplitting: {
          includeDependenciesRecursively: false,
          groups: [
            // otherwise every icon is a request of its own
            { name: "icons", test: /node_modules\/lucide-react/ },
            // what the pages of a job share: one request, not thirty
            {
              name: (id, modules) => (isFirst(id, modules) ? null : "job"),
              test: /src\/|node_modules\/(?!@radix-ui|@floating-ui)/,
              minShareCount: 3,
            },
          ],
        },
      },
    },
  },
  test: { environment: "jsdom" },
  server: { proxy: { "/api": "http://127.0.0.1:8420" } },
});
