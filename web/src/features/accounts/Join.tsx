import { useMutation, useQuery } from "@tanstack/react-query";
import { Link, useLocation, useNavigate } from "react-router";
import { api } from "@/api/client";
import { useStale } from "@/api/stale";
import { t } from "@/texts/accounts";
import { Button } from "@/ui/Button";
import { Loading, Trouble } from "@/ui/states";
import { SignInFrame } from "./SignInFrame";
import { useSession } from "./session";

const MEANS = {
  viewer: t("viewEverything"),
  crew: t("measureLogAndEdit"),
  owner: t("doEverythingAndManageMembers"),
};

export function Join() {
  const token = useLocation().hash.slice(1);
  const session = useSession();
  const refresh = useStale("session");
  const navigate = useNavigate();
  const invitation = useQuery({
    queryKey: ["invitation", token],
    queryFn: () => api.post("/invitation", { body: { token } }),
  });
  const join = useMutation({
    mutationFn: () => api.post("/invitation/acceptance", { body: { token } }),
    onSuccess: async (workspace) => {
      await refresh();
      navigate(`/w/${workspace.id}/sites`);
    },
  });
  if (invitation.isPending || session.isPending) return <Loading what={t("theInvitation")} />;
  if (invitation.isError) return <Trouble error={invitation.error} />;
  const { workspace, role } = invitation.data;
  return (
    <SignInFrame title={t("join", { workspace })}>
      <p>
        {t("youAreInvitedAs")} <strong>{role}</strong>
        {t("youMay", { means: MEANS[role] })}
      </p>
      {join.error ? <Trouble error={join.error} /> : null}
      {session.data?.user ? (
        <Button primary wide onClick={() => join.mutate()}>
          {t("joinAs", { name: session.data.user.name })}
        </Button>
      ) : (
        <div className="grid gap-3">
          <Link className="btn btn-primary press" to={`/sign-up#${token}`}>
            {t("createAnAccountAndJoin")}
          </Link>
          <Link className="btn btn-outline press" to={`/sign-in?next=/join#${token}`}>
            {t("iHaveAnAccount")}
          </Link>
        </div>
      )}
    </SignInFrame>
  );
}
