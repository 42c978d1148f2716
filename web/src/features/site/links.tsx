import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { api, result } from "@/api/client";
import type { LinkEntry } from "@/api/schema.gen";
import { useMay } from "@/features/accounts/session";
import { t } from "@/texts/site";
import { Button } from "@/ui/Button";
import { day } from "@/ui/format";

const S = "/api/v1/workspaces/{workspace_id}/sites/{site_id}" as const;

/** Links of one kind to this site: made, told once, revoked. */
export function Links({ kind, address }: { kind: LinkEntry["kind"]; address: (token: string) => string }) {
  const { workspaceId = "", siteId = "" } = useParams();
  const may = useMay();
  const path = { workspace_id: workspaceId, site_id: siteId };
  const links = useQuery({
    queryKey: ["site", workspaceId, siteId, "links"],
    queryFn: () => result(api.GET(`${S}/links`, { params: { path } })),
  });
  const [newAddress, setNewAddress] = useState<string>();
  const add = useMutation({
    mutationFn: () => result(api.POST(`${S}/links`, { params: { path }, body: { kind } })),
    onSuccess: async (link) => {
      setNewAddress(address(link.token ?? ""));
      await links.refetch();
    },
  });
  const revoke = useMutation({
    mutationFn: (link_id: string) =>
      result(api.DELETE(`${S}/links/{link_id}`, { params: { path: { ...path, link_id } } })),
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
          {may.edit ? (
            <Button ghost small onClick={() => revoke.mutate(link.id)}>
              {t("revoke")}
            </Button>
          ) : null}
        </p>
      ))}
      {may.edit ? (
        <Button small disabled={add.isPending} onClick={() => add.mutate()}>
          {kind === "calendar" ? t("makeACalendarLink") : t("makeAClientLink")}
        </Button>
      ) : null}
    </div>
  );
}
