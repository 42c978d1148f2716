import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useRequests } from "@/api/requests";
import type { LinkEntry } from "@/api/schema.gen";
import { useMay } from "@/features/accounts/session";
import { t } from "@/texts/site";
import { Button } from "@/ui/Button";
import { day } from "@/ui/format";

/** Links of one kind to this site: made, told once, revoked. */
export function Links({ kind, address }: { kind: LinkEntry["kind"]; address: (token: string) => string }) {
  const { siteApi, key } = useRequests();
  const may = useMay();
  const links = useQuery({
    queryKey: key("site", "links"),
    queryFn: () => siteApi.get("/links"),
  });
  const [newAddress, setNewAddress] = useState<string>();
  const add = useMutation({
    mutationFn: () => siteApi.post("/links", { body: { kind } }),
    onSuccess: async (link) => {
      setNewAddress(address(link.token ?? ""));
      await links.refetch();
    },
  });
  const revoke = useMutation({
    mutationFn: (link_id: string) => siteApi.delete("/links/{link_id}", { path: { link_id } }),
    onSuccess: async () => {
      setNewAddress(undefined);
      await links.refetch();
    },
  });
  const ownLinks = (links.data ?? []).filter((link) => link.kind === kind);
  return (
    <div className="space-y-2" data-testid={`links-${kind}`}>
      {newAddress ? (
        <p className="border-l-4 border-secondary bg-base-100 p-2 break-all" role="status">
          {t("copyThisLinkNow")} <a href={newAddress}>{newAddress}</a>
        </p>
      ) : null}
      {ownLinks.map((link) => (
        <p key={link.id} className="flex flex-wrap items-center gap-3">
          {t("linkUntil", { day: day(link.expires_at) })}
          <Button shown={may.edit} ghost small onClick={() => revoke.mutate(link.id)}>
            {t("revoke")}
          </Button>
        </p>
      ))}
      <Button shown={may.edit} small disabled={add.isPending} onClick={() => add.mutate()}>
        {kind === "calendar" ? t("makeACalendarLink") : t("makeAClientLink")}
      </Button>
    </div>
  );
}
