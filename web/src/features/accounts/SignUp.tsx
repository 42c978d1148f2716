import { useMutation } from "@tanstack/react-query";
import { Link, useLocation, useNavigate } from "react-router";
import { api } from "@/api/client";
import { t } from "@/texts/accounts";
import { Button } from "@/ui/Button";
import { TextField } from "@/ui/Field";
import { useFields } from "@/ui/fields";
import { Sentence } from "@/ui/Sentence";
import { NEW_PASSWORD } from "./passwords";
import { SignInFrame } from "./SignInFrame";
import { useEnter } from "./session";

const START = { name: "", email: "", password: "" };

export function SignUp() {
  const invitation = useLocation().hash.slice(1) || null;
  const navigate = useNavigate();
  const enter = useEnter();
  const signUp = useMutation({
    mutationFn: (entry: typeof START) => api.post("/accounts", { body: { ...entry, workspace: null, invitation } }),
    onSuccess: (session) => {
      enter(session);
      const [workspace] = session.workspaces;
      navigate(invitation || !workspace ? "/" : `/w/${workspace.id}/sites/new`);
    },
  });
  const form = useFields({ start: START, problem: signUp.error });
  return (
    <SignInFrame title={invitation ? t("createAnAccountToJoin") : t("createAccount")}>
      <form className="space-y-4" noValidate onSubmit={form.onSubmit((texts) => signUp.mutate(texts))}>
        <TextField label={t("yourName")} autoComplete="name" {...form.field("name")} />
        <TextField label={t("eMailAddress")} type="email" autoComplete="username" {...form.field("email")} />
        <TextField
          label={t("password")}
          {...NEW_PASSWORD}
          {...form.field("password")}
          hint={t("atLeast10CharactersFourOrdinaryHeading")}
        />
        <Sentence text={form.sentence} />
        <Button type="submit" primary wide disabled={signUp.isPending}>
          {t("createAccount")}
        </Button>
      </form>
      <p>
        {t("alreadyHaveAnAccount")}{" "}
        <Link className="link link-primary" to={invitation ? `/sign-in?next=/join#${invitation}` : "/sign-in"}>
          {t("signIn")}
        </Link>
      </p>
    </SignInFrame>
  );
}
