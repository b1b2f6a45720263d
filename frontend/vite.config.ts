import vue from "@vitejs/plugin-vue";
import { defineConfig } from "vitest/config";
import Components from "unplugin-vue-components/vite";
import { ElementPlusResolver } from "unplugin-vue-components/resolvers";

export default defineConfig({
  plugins: [vue(), Components({ dirs: [], dts: false, resolvers: [ElementPlusResolver({ importStyle: "css" })] })],
  build: { outDir: "../src/signpost/web/static", emptyOutDir: true, assetsInlineLimit: 0, chunkSizeWarningLimit: 1200 },
  server: { proxy: { "/api": "http://127.0.0.1:8017", "/preview": "http://127.0.0.1:8017" } },
  test: { include: ["src/**/*.test.ts"], environment: "node" },
});
