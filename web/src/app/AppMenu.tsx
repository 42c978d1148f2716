import { EllipsisVertical } from "lucide-react";
import { useOutletContext } from "react-router";
import { useSession, useSignOut } from "@/features/accounts/session";
import { t } from "@/texts/app";
import { Menu, type MenuEntry } from "@/ui/Menu";
import { useHere } from "./here";
import { useRound } from "./round";
import { useTheme } from "./theme";

/** Everything that is not a part of the job: files, settings, the workspace and the account. */
export function AppMenu({ site = [] }: { site?: MenuEntry[] }) {
  const { data: session } = useSession();
  const workspace = useHere();
  const showKeys = useOutletContext<() => void>();
  const signOut = useSignOut();
  const { dark, toggle } = useTheme();
  const round = useRound();
  const base = workspace ? `/w/${workspace.id}` : "";
  const pages: MenuEntry[] = workspace
    ? [
        { key: "sites", label: t("sites"), href: `${base}/sites` },
        { key: "materials", label: t("materials"), href: `${base}/materials` },
        { key: "suppliers", label: t("suppliers"), href: `${base}/suppliers` },
        { key: "practice", label: t("practice"), href: `${base}/practice` },
        { key: "parameters", label: t("parametersAndSources"), href: `${base}/parameters` },
        { key: "team", label: t("team"), href: `${base}/team` },
      ]
    : [];
  const workspaces = session?.workspaces ?? [];
  const others: MenuEntry[] =
    workspaces.length > 1
      ? workspaces.map(({ id, name, role }) => ({
          key: id,
          label: name,
          note: role,
          current: id === workspace?.id,
          href: `/w/${id}/sites`,
        }))
      : [];
  const entries: MenuEntry[] = [
    ...(round.offered ? [{ key: "round", label: t("guidedRound"), press: round.start }] : []),
    { key: "account", label: t("accountAndUnits"), href: "/account" },
    { key: "theme", label: dark ? t("lightTheme") : t("darkTheme"), press: toggle },
    { key: "keys", label: t("keys"), note: "?", press: showKeys },
    { key: "sign-out", label: t("signOut"), press: () => signOut.mutate() },
  ];
  return (
    <Menu label={t("menu")} groups={[site, pages, others, entries]}>
      <span className="hidden max-w-48 truncate sm:inline">{session?.user?.name}</span>
      <EllipsisVertical size={20} />
    </Menu>
  );
}
