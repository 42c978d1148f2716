import { t } from "@/texts/app";
import { useUnreachable } from "./connection";

export function OutageBanner() {
  return (
    <div role="alert" aria-live="assertive">
      {useUnreachable() ? (
        <p className="flex items-center justify-center gap-3 bg-warning px-4 py-2 text-center text-warning-content">
          <span className="loading loading-bars loading-xs shrink-0" />
          {t("ulmaticCannotBeReachedNothingYou")}
        </p>
      ) : null}
    </div>
  );
}
