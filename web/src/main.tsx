import "@fontsource-variable/bricolage-grotesque";
import "@fontsource-variable/source-sans-3";
import "@/app/index.css";
import { QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { RouterProvider } from "react-router/dom";
import { queries } from "@/app/queries";
import { router } from "@/app/router";

const root = document.getElementById("root");
if (root) {
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        {/* Without transitions: what is typed right after a click must not go into the page that is being left. */}
        <RouterProvider router={router} useTransitions={false} />
      </QueryClientProvider>
    </StrictMode>,
  );
}
