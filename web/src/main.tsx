import "@fontsource-variable/bricolage-grotesque";
import "@fontsource-variable/source-sans-3";
import "@/app/index.css";
import { QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { RouterProvider } from "react-router/dom";
import { fetchAhead } from "@/app/ahead";
import { queries } from "@/app/queries";
import { router } from "@/app/router";
import { SESSION } from "@/features/accounts/session";

// Who is here is asked while the code of the page comes; drawn before it is there, it would be held back.
void queries.prefetchQuery(SESSION);
void fetchAhead(router.routes).then(() => {
  const root = document.getElementById("root");
  if (!root) return;
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        {/* Without transitions: what is typed right after a click must not go into the page that is being left. */}
        <RouterProvider router={router} useTransitions={false} />
      </QueryClientProvider>
    </StrictMode>,
  );
});
