import type { ReactNode } from "react";
import { Problem } from "@/api/client";
import { t } from "@/texts/ui";
import { Button } from "@/ui/Button";

export function Loading({ what }: { what: string }) {
  return (
    <p className="flex items-center gap-3 p-6 text-base-content/75" role="status">
      <span className="loading loading-bars loading-sm" /> {t("loading", { what })}
    </p>
  );
}

export function Trouble({ error, retry }: { error: unknown; retry?: () => void }) {
  const detail = error instanceof Problem ? error.message : t("thisPageHasFailedReloadIt");
  return (
    <div className="m-4 max-w-prose border-l-4 border-error bg-base-100 p-4" role="alert">
      <p>{detail}</p>
      {retry ? (
        <Button outline className="mt-3" onClick={retry}>
          {t("tryAgain")}
        </Button>
      ) : null}
    </div>
  );
}

export function Empty({ title, children }: { title: string; children: ReactNode }) {
  return (
    <div className="flex flex-col items-start gap-3 p-6">
      <h2 className="text-xl">{title}</h2>
      {children}
    </div>
  );
}
