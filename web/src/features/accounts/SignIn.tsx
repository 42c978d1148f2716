import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { Link, Navigate, useLocation, useNavigate, useSearchParams } from "react-router";
import { api, Problem, result } from "@/api/client";
import { t } from "@/texts/accounts";
import { TextField } from "@/ui/Field";
import { Door } from "./Door";
import { MailboxLink } from "./MailboxLink";
import { useDemo, useEnter, useSession } from "./session";

/** Only addresses of our own are gone to after signing in. */
function ownAddress(next: string | null) {
  return next && /^\/(?![/\\])/.test(next) ? next : "/";
}

export function SignIn() {
  const [parameters] = useSearchParams();
  const next = ownAddress(parameters.get("next")) + useLocation().hash;
  const navigate = useNavigate();
  const session = useSession();
  const enter = useEnter();
  const demo = useDemo();
  const [email, setEmail] = useState("");
  const [password, setPassword] = useState("");
  const signIn = useMutation({
    mutationFn: () => result(api.POST("/api/v1/session", { body: { email, password } })),
    onSuccess: (session) => {
      enter(session);
      navigate(next);
    },
  });
  if (session.data?.user && !signIn.isPending) return <Navigate to={next} replace />;
  const problem = signIn.error instanceof Problem ? signIn.error : null;
  return (
    <Door title={t("signIn")}>
      {session.data?.demo ? (
        <div className="space-y-3 border-l-4 border-accent bg-base-100 p-4">
          <p>{t("twoInventedSitesASmallholdingIn")}</p>
          <button
            type="button"
            className="btn btn-primary btn-lg press w-full"
            onClick={() => demo.mutate()}
            disabled={demo.isPending}
          >
            {demo.isPending ? t("makingYourDemo") : t("stepIntoTheDemo")}
          </button>
          {demo.error ? (
            <p className="text-error" role="alert">
              {demo.error.message}
            </p>
          ) : null}
        </div>
      ) : null}
      <form
        className="space-y-4"
        noValidate
        onSubmit={(event) => {
          event.preventDefault();
          signIn.mutate();
        }}
      >
        <TextField
          label={t("eMailAddress")}
          type="email"
          autoComplete="username"
          value={email}
          onChange={setEmail}
          error={problem?.byField.email}
        />
        <TextField
          label={t("password")}
          type="password"
          autoComplete="current-password"
          value={password}
          onChange={setPassword}
          error={problem?.byField.password}
        />
        {problem && problem.errors.length === 0 ? (
          <p className="text-error" role="alert">
            {problem.message}
          </p>
        ) : null}
        <button type="submit" className="btn btn-outline press w-full" disabled={signIn.isPending}>
          {t("signIn")}
        </button>
      </form>
      <p>
        {t("noAccountYet")}{" "}
        <Link className="link link-primary" to="/sign-up">
          {t("makeOne")}
        </Link>
        {t("itTakesAMinute")}
      </p>
      {session.data?.letters ? (
        <p>
          <Link className="link" to="/forgotten">
            {t("forgottenThePassword")}
          </Link>
        </p>
      ) : null}
      <MailboxLink />
    </Door>
  );
}
