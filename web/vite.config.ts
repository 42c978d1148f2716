import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";
import { VitePWA } from "vite-plugin-pwa";

export default defineConfig({
  plugins: [
    react(),
    tailwindcss(),
    VitePWA({
      // The field mode asks for it: who never opens that has nothing fetched in advance.
      injectRegister: null,
      registerType: "autoUpdate",
      includeAssets: ["mark.svg", "theme.js"],
      manifest: {
        name: "Ulmatic field mode",
        short_name: "Ulmatic",
        description: "Depths and observations, written down where they are seen, with or without signal.",
        start_url: "/field",
        scope: "/",
        display: "standalone",
        background_color: "#eceee8",
        theme_color: "#6d2e5f",
        icons: [{ src: "/mark.svg", sizes: "any", type: "image/svg+xml", purpose: "any" }],
      },
      workbox: {
        globPatterns: ["**/*.{js,css,html,svg,woff2}"],
        navigateFallback: "index.html",
        navigateFallbackDenylist: [/^\/api\//, /^\/(healthz|readyz|metrics)/],
        clientsClaim: true,
        skipWaiting: true,
      },
    }),
  ],
  resolve: { alias: { "@": new URL("./src", import.meta.url).pathname } },
  build: {
    target: "es2022",
    chunkSizeWarningLimit: 700,
    // A page of fifty small files is slow where each of them has a long way: what many share comes at once.
    rolldownOptions: { output: { codeSplitting: { groups: [{ name: "shared", minShareCount: 4 }] } } },
  },
});
