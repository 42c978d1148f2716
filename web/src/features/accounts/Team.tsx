import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { useChange } from "@/api/change";
import { apiOfWorkspace } from "@/api/client";
import type { Role } from "@/api/schema.gen";
import { useStale } from "@/api/stale";
import { t } from "@/texts/accounts";
import { Button } from "@/ui/Button";
import { TextField } from "@/ui/Field";
import { useFields } from "@/ui/fields";
import { day } from "@/ui/format";
import { dateFormat } from "@/ui/intl";
import { Select } from "@/ui/Select";
import { Loading, Trouble } from "@/ui/states";
import { useMay, useSession } from "./session";

const ROLES: { role: Role; means: string }[] = [
  { role: "viewer", means: t("viewsEverything") },
  { role: "crew", means: t("measuresLogsAndEdits") },
  { role: "owner", means: t("alsoManagesMembers") },
];

const ROLE_OPTIONS = ROLES.map(({ role }): [Role, string] => [role, role]);

export function Team() {
  const { workspaceId: workspace_id = "" } = useParams();
  const may = useMay();
  const { data: session } = useSession();
  const workspaceApi = apiOfWorkspace(workspace_id);
  const members = useQuery({
    queryKey: ["members", workspace_id],
    queryFn: () => workspaceApi.get("/members"),
  });
  const refresh = useStale("members");
  const changeRole = useChange(
    ({ user_id, role }: { user_id: string; role: Role }) =>
      workspaceApi.patch("/members/{user_id}", { path: { user_id }, body: { role } }),
    refresh,
  );
  const remove = useChange(
    (user_id: string) => workspaceApi.delete("/members/{user_id}", { path: { user_id } }),
    refresh,
  );
  if (members.isPending) return <Loading what={t("theTeam")} />;
  if (members.isError) return <Trouble error={members.error} retry={() => members.refetch()} />;
  const problem = changeRole.error ?? remove.error;
  return (
    <div className="mx-auto max-w-3xl space-y-6 p-4 sm:p-6">
      <h1 className="text-3xl">{t("team")}</h1>
      {problem ? <Trouble error={problem} /> : null}
      <ul className="divide-y divide-base-300 border-y border-base-300">
        {members.data.map((member) => (
          <li key={member.user_id} className="flex flex-wrap items-center gap-3 py-3">
            <span className="min-w-0 grow">
              <span className="font-semibold">{member.name}</span>
              {member.user_id === session?.user?.id ? ` ${t("you")}` : ""}
              <span className="block truncate text-sm text-base-content/70">{member.email}</span>
            </span>
            {may.own ? (
              <>
                <Select
                  className="w-32"
                  label={t("roleOf", { name: member.name })}
                  value={member.role}
                  onChange={(role) => changeRole.mutate({ user_id: member.user_id, role })}
                  options={ROLE_OPTIONS}
                />
                <Button
                  ghost
                  onClick={() => remove.mutate(member.user_id)}
                  aria-label={t("removeFromTheTeam", { name: member.name })}
                >
                  {t("remove")}
                </Button>
              </>
            ) : (
              <span>{member.role}</span>
            )}
          </li>
        ))}
      </ul>
      <dl className="grid gap-1 text-sm sm:grid-cols-3">
        {ROLES.map(({ role, means }) => (
          <div key={role}>
            <dt className="inline font-semibold">{role}</dt> <dd className="inline">{means}</dd>
          </div>
        ))}
      </dl>
      {may.own ? <Invitations workspace_id={workspace_id} /> : null}
      {may.own ? <Departure workspace_id={workspace_id} /> : null}
    </div>
  );
}

function Invitations({ workspace_id }: { workspace_id: string }) {
  const { data: session } = useSession();
  const workspaceApi = apiOfWorkspace(workspace_id);
  const refresh = useStale("invitations");
  const open = useQuery({
    queryKey: ["invitations", workspace_id],
    queryFn: () => workspaceApi.get("/invitations"),
  });
  const invite = useChange(
    (body: { role: Role; email: string | null }) => workspaceApi.post("/invitations", { body }),
    refresh,
  );
  const form = useFields({ start: { role: "crew" as Role, email: "" }, problem: invite.error });
  const withdraw = useChange(
    (invitation_id: string) => workspaceApi.delete("/invitations/{invitation_id}", { path: { invitation_id } }),
    refresh,
  );
  const link = invite.data?.token ? `${location.origin}/join#${invite.data.token}` : null;
  return (
    <section className="space-y-3">
      <h2 className="text-xl">{t("inviteAMember")}</h2>
      <p>{t("aLinkWorksOnceFor14", { byEMail: session?.letters ? ` ${t("ulmaticSendsItByEMail")}` : "" })}</p>
      <form
        noValidate
        className="flex flex-wrap items-end gap-2"
        onSubmit={form.onSubmit(({ role, email }) => invite.mutate({ role, email: email || null }))}
      >
        <div className={session?.letters ? "min-w-0 grow" : "hidden"}>
          <TextField
            label={t("eMailAddressOptional")}
            type="email"
            {...form.field("email")}
            error={form.errorAt("email") ?? form.sentence}
          />
        </div>
        <Select
          className="w-32"
          label={t("roleOfTheNewMember")}
          value={form.values.role}
          onChange={(role) => form.change({ role })}
          options={ROLE_OPTIONS}
        />
        <Button type="submit" primary>
          {form.values.email ? t("sendInvitation") : t("createInvitationLink")}
        </Button>
      </form>
      {invite.data && !invite.data.token ? <p role="status">{t("theInvitationHasBeenSent")}</p> : null}
      {link ? (
        <p className="flex flex-wrap items-center gap-2">
          <input
            className="input press min-w-0 grow"
            readOnly
            value={link}
            aria-label={t("invitationLink")}
            onFocus={(event) => event.target.select()}
          />
          <Button onClick={() => navigator.clipboard?.writeText(link)}>{t("copy")}</Button>
        </p>
      ) : null}
      {open.data && open.data.length > 0 ? (
        <ul className="divide-y divide-base-300 border-y border-base-300">
          {open.data.map((invitation) => (
            <li key={invitation.id} className="flex items-center gap-3 py-1">
              <span className="grow">
                {t("validUntil", {
                  role: invitation.role,
                  date: dateFormat({}).format(new Date(invitation.expires_at)),
                })}
              </span>
              <Button ghost onClick={() => withdraw.mutate(invitation.id)}>
                {t("withdraw")}
              </Button>
            </li>
          ))}
        </ul>
      ) : null}
    </section>
  );
}

/** Everything out as a file, and the workspace deleted after a while. */
function Departure({ workspace_id }: { workspace_id: string }) {
  const { data: session } = useSession();
  const workspaceApi = apiOfWorkspace(workspace_id);
  const refresh = useStale("session");
  const leave = useChange(() => workspaceApi.post("/departure"), refresh);
  const stay = useChange(() => workspaceApi.post("/restoration"), refresh);
  const leaves_at = session?.workspaces.find((workspace) => workspace.id === workspace_id)?.leaves_at;
  const problem = leave.error ?? stay.error;
  return (
    <section className="space-y-3 border-t border-base-300 pt-6">
      <h2 className="text-xl">{t("workspace")}</h2>
      {problem ? <Trouble error={problem} /> : null}
      {leaves_at ? (
        <p className="border-l-4 border-warning bg-base-100 p-3" role="status">
          {t("thisWorkspaceWillBeDeletedOn", { day: day(leaves_at.slice(0, 10)) })}
        </p>
      ) : null}
      <div className="flex flex-wrap gap-2">
        <a className="btn press" href={`/api/v1/workspaces/${workspace_id}/export.zip`} download>
          {t("exportEverything")}
        </a>
        {leaves_at ? (
          <Button primary onClick={() => stay.mutate()}>
            {t("keepWorkspace")}
          </Button>
        ) : (
          <Button outline className="btn-error" onClick={() => leave.mutate()}>
            {t("deleteWorkspaceIn14Days")}
          </Button>
        )}
      </div>
    </section>
  );
}
