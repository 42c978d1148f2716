import { useParams } from "react-router";
import { useSession } from "@/features/accounts/session";

/** Where the workspace that was looked at last is kept. */
export const LAST = "ulmatic.workspace";

/** The workspace of this address, else the last one that was looked at. */
export function useHere() {
  const { data: session } = useSession();
  const { workspaceId } = useParams();
  const workspaces = session?.workspaces ?? [];
  const openId = workspaceId ?? localStorage.getItem(LAST);
  return workspaces.find((workspace) => workspace.id === openId) ?? workspaces[0];
}
