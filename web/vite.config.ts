import { basename } from "node:path";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

export default defineConfig({
  plugins: [react()],
  server: { proxy: { "/api": "http://127.0.0.1:8000" } },
  css: {
    modules: {
      localsConvention: "camelCase",
      // the same in every build, so that a test can name what it looks for
      generateScopedName: (name, file) => `${basename(file).split(".")[0]}_${name}`,
    },
  },
  build: { chunkSizeWarningLimit: 1500 },
});
