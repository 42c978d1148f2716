import { type ComponentType, lazy, Suspense } from "react";
import { useRouteError } from "react-router";
import { t } from "@/texts/app";
import { Loading, Trouble } from "@/ui/states";

/** A page whose code is fetched when it is opened; what goes wrong in it stays within it. */
export function page<Props extends object>(
  load: () => Promise<ComponentType<Props>>,
  props = {} as Props & React.JSX.IntrinsicAttributes,
) {
  const Lazy = lazy(async () => ({ default: await load() }));
  return {
    element: (
      <Suspense fallback={<Loading what={t("thePage")} />}>
        <Lazy {...props} />
      </Suspense>
    ),
    errorElement: <PageTrouble />,
  };
}

function PageTrouble() {
  return <Trouble error={useRouteError()} retry={() => location.reload()} />;
}
