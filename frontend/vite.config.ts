import { readFileSync } from "node:fs";
import vue from "@vitejs/plugin-vue";
import { defineConfig } from "vitest/config";
import Components from "unplugin-vue-components/vite";
import { ElementPlusResolver } from "unplugin-vue-components/resolvers";

const FONTS = ["figtree", "jetbrains-mono", "literata"];

/** Ship each font's licence beside it. */
const fontLicences = {
  name: "font-licences",
  generateBundle(this: { emitFile: (file: { type: "asset"; fileName: string; source: string }) => string }) {
    for (const font of FONTS) {
      const source = readFileSync(`node_modules/@fontsource-variable/${font}/LICENSE`, "utf-8");
      this.emitFile({ type: "asset", fileName: `assets/licences/${font}.txt`, source });
    }
  },
};

export default defineConfig({
  plugins: [
    vue(),
    Components({ dirs: [], dts: false, resolvers: [ElementPlusResolver({ importStyle: "css" })] }),
    fontLicences,
  ],
  build: {
    outDir: "../src/signpost/web/static",
    emptyOutDir: true,
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 1200,
  },
  server: { proxy: { "/api": "http://127.0.0.1:8017", "/preview": "http://127.0.0.1:8017" } },
  // a busy machine takes its time: what never comes fails, and nothing is timed
  test: { include: ["src/**/*.test.ts"], environment: "node", testTimeout: 120_000, hookTimeout: 120_000 },
});
