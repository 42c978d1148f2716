import { useMutation } from "@tanstack/react-query";
import { Link, Navigate, useLocation, useNavigate, useSearchParams } from "react-router";
import { api } from "@/api/client";
import { t } from "@/texts/accounts";
import { Button } from "@/ui/Button";
import { TextField } from "@/ui/Field";
import { useFields } from "@/ui/fields";
import { Sentence } from "@/ui/Sentence";
import { MailboxLink } from "./MailboxLink";
import { OLD_PASSWORD } from "./passwords";
import { SignInFrame } from "./SignInFrame";
import { useDemo, useEnter, useSession } from "./session";

/** Only addresses of our own are gone to after signing in. */
function ownAddress(next: string | null) {
  return next && /^\/(?![/\\])/.test(next) ? next : "/";
}

const START = { email: "", password: "" };

export function SignIn() {
  const [parameters] = useSearchParams();
  const next = ownAddress(parameters.get("next")) + useLocation().hash;
  const navigate = useNavigate();
  const session = useSession();
  const enter = useEnter();
  const demo = useDemo();
  const signIn = useMutation({
    mutationFn: (body: typeof START) => api.post("/session", { body }),
    onSuccess: (session) => {
      enter(session);
      navigate(next);
    },
  });
  const form = useFields({ start: START, problem: signIn.error });
  if (session.data?.user && !signIn.isPending) return <Navigate to={next} replace />;
  return (
    <SignInFrame title={t("signIn")}>
      {session.data?.demo ? (
        <div className="space-y-3 border-l-4 border-accent bg-base-100 p-4">
          <p>{t("twoInventedSitesASmallholdingIn")}</p>
          <Button primary large wide onClick={() => demo.mutate()} disabled={demo.isPending}>
            {demo.isPending ? t("preparingYourDemo") : t("tryTheDemo")}
          </Button>
          <Sentence text={demo.error?.message} />
        </div>
      ) : null}
      <form className="space-y-4" noValidate onSubmit={form.onSubmit((texts) => signIn.mutate(texts))}>
        <TextField label={t("eMailAddress")} type="email" autoComplete="username" {...form.field("email")} />
        <TextField label={t("password")} {...OLD_PASSWORD} {...form.field("password")} />
        <Sentence text={form.sentence} />
        <Button type="submit" outline wide disabled={signIn.isPending}>
          {t("signIn")}
        </Button>
      </form>
      <p>
        {t("noAccountYet")}{" "}
        <Link className="link link-primary" to="/sign-up">
          {t("createOne")}
        </Link>
        {t("itTakesOneMinute")}
      </p>
      {session.data?.letters ? (
        <p>
          <Link className="link" to="/forgotten">
            {t("forgotYourPassword")}
          </Link>
        </p>
      ) : null}
      <MailboxLink />
    </SignInFrame>
  );
}
