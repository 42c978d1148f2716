import { useMutation } from "@tanstack/react-query";
import { Camera } from "lucide-react";
import { useState } from "react";
import { sendPhoto } from "@/api/files";
import type { DeliveryOut } from "@/api/schema.gen";
import { useStockChanges } from "@/features/supply/supply";
import { t } from "@/texts/stock";
import { Button } from "@/ui/Button";
import { FileButton, PHOTOS } from "@/ui/FileChoice";
import { Sentence } from "@/ui/Sentence";

/** The photograph of a load: shown when asked for, taken where there is none. */
export function Photo({ load, edit }: { load: DeliveryOut; edit: boolean }) {
  const { path, refresh } = useStockChanges();
  const [shown, setShown] = useState(false);
  const workspace = `/api/v1/workspaces/${path.workspace_id}`;
  const send = useMutation({
    retry: false,
    mutationFn: (file: File) =>
      sendPhoto(`${workspace}/sites/${path.site_id}/deliveries/${load.id}/photos/${crypto.randomUUID()}`, file),
    onSuccess: refresh,
  });
  if (load.photo_id) {
    return shown ? (
      <img
        src={`${workspace}/photos/${load.photo_id}`}
        alt={t("theLoad", { name: load.name })}
        className="mt-1 max-h-72"
      />
    ) : (
      <Button small className="mt-1" onClick={() => setShown(true)}>
        <Camera size={16} /> {t("showThePhoto")}
      </Button>
    );
  }
  if (!edit) return null;
  return (
    <div className="mt-1">
      <FileButton className="btn-sm" accept={PHOTOS} take={send.mutate}>
        <Camera size={16} /> {send.isPending ? t("sending") : t("addAPhoto")}
      </FileButton>
      <Sentence className="text-sm" text={send.error?.message} />
    </div>
  );
}
