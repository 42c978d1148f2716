import { type ComponentType, Suspense } from "react";
import { useRouteError } from "react-router";
import { t } from "@/texts/app";
import { lazily } from "@/ui/lazily";
import { Loading, Trouble } from "@/ui/states";

/** A page whose code is fetched when it is opened; what goes wrong in it stays within it. */
export function page<Name extends string>(load: () => Promise<Record<Name, ComponentType<object>>>, name: Name) {
  const Content = lazily(load, name);
  return {
    element: (
      <Suspense fallback={<Loading what={t("thePage")} />}>
        <Content />
      </Suspense>
    ),
    errorElement: <PageTrouble />,
    handle: { fetchCode: Content.fetchCode },
  };
}

function PageTrouble() {
  return <Trouble error={useRouteError()} retry={() => location.reload()} />;
}
