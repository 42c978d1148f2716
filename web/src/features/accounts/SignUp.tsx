import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useLocation, useNavigate } from "react-router";
import { api, Problem, result } from "@/api/client";
import { t } from "@/texts/accounts";
import { TextField } from "@/ui/Field";
import { Door } from "./Door";
import { useEnter } from "./session";

export function SignUp() {
  const invitation = useLocation().hash.slice(1) || null;
  const navigate = useNavigate();
  const enter = useEnter();
  const [entry, set] = useState({ name: "", email: "", password: "", workspace: "" });
  const change = (field: keyof typeof entry) => (value: string) => set({ ...entry, [field]: value });
  const signUp = useMutation({
    mutationFn: () =>
      result(
        api.POST("/api/v1/accounts", { body: { ...entry, workspace: entry.workspace || null, invitation } }),
      ),
    onSuccess: (session) => {
      enter(session);
      navigate("/");
    },
  });
  const problem = signUp.error instanceof Problem ? signUp.error : null;
  const errors = problem?.byField ?? {};
  return (
    <Door title={invitation ? t("makeAnAccountToJoin") : t("makeAnAccount")}>
      <form
        className="space-y-4"
        noValidate
        onSubmit={(event) => {
          event.preventDefault();
          signUp.mutate();
        }}
      >
        <TextField
          label={t("yourName")}
          autoComplete="name"
          value={entry.name}
          onChange={change("name")}
          error={errors.name}
        />
        <TextField
          label={t("eMailAddress")}
          type="email"
          autoComplete="username"
          value={entry.email}
          onChange={change("email")}
          error={errors.email}
        />
        <TextField
          label={t("password")}
          type="password"
          autoComplete="new-password"
          value={entry.password}
          onChange={change("password")}
          error={errors.password}
          hint={t("n10SignsOrMoreFourOrdinary")}
        />
        {invitation ? null : (
          <TextField
            label={t("workspace")}
            autoComplete="organization"
            value={entry.workspace}
            onChange={change("workspace")}
            error={errors.workspace}
            hint={t("whatYouCallTheWholeOf")}
          />
        )}
        {problem && problem.errors.length === 0 ? (
          <p className="text-error" role="alert">
            {problem.message}
          </p>
        ) : null}
        <button type="submit" className="btn btn-primary press w-full" disabled={signUp.isPending}>
          {t("makeTheAccount")}
        </button>
      </form>
      <p>
        {t("haveOneAlready")}{" "}
        <Link
          className="link link-primary"
          to={invitation ? `/sign-in?next=/join#${invitation}` : "/sign-in"}
        >
          {t("signIn")}
        </Link>
      </p>
    </Door>
  );
}
