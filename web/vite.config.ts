import { createHash } from "node:crypto";
import { readdirSync, readFileSync } from "node:fs";
import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { build, defineConfig, type Plugin } from "vite";

const KEPT = /(?<!^sw)\.(js|css|html|svg|woff2|webmanifest)$/;

/** Builds the service worker once all else is there, with the list of what it keeps for when there is no signal. */
function serviceWorker(): Plugin {
  return {
    name: "service-worker",
    apply: "build",
    async closeBundle() {
      const names = readdirSync("dist", { recursive: true, encoding: "utf8" }).filter((name) => KEPT.test(name));
      const files = names.sort().map((url) => ({
        url,
        // What is named by its content needs no mark of its own.
        revision: url.startsWith("assets/")
          ? null
          : createHash("sha256")
              .update(readFileSync(`dist/${url}`))
              .digest("hex")
              .slice(0, 16),
      }));
      await build({
        configFile: false,
        publicDir: false,
        logLevel: "warn",
        define: { FILES: JSON.stringify(files), "process.env.NODE_ENV": '"production"' },
        build: {
          emptyOutDir: false,
          outDir: "dist",
          minify: true,
          target: "es2022",
          lib: { entry: "worker/sw.ts", formats: ["es"], fileName: () => "sw.js" },
        },
      });
    },
  };
}

export default defineConfig({
  plugins: [react(), tailwindcss(), serviceWorker()],
  resolve: {
    alias: {
      "@texts": new URL("../src/ulmatic/texts", import.meta.url).pathname,
      "@": new URL("./src", import.meta.url).pathname,
    },
  },
  server: { fs: { allow: [".", "../src/ulmatic/texts"] } },
  build: {
    target: "es2022",
    chunkSizeWarningLimit: 700,
    // A page of fifty small files is slow where each of them has a long way: what many share comes at once.
    rolldownOptions: { output: { codeSplitting: { groups: [{ name: "shared", minShareCount: 4 }] } } },
  },
});
