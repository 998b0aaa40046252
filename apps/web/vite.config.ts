import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

export default defineConfig({
  plugins: [react(), tailwindcss()],
  html: { cspNonce: "__NONCE__" },
  // Fonts are files of our own origin, never data: the page's policy allows nothing else.
  build: { assetsInlineLimit: 0, chunkSizeWarningLimit: 900 },
});
