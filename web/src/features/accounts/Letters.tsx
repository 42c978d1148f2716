import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useLocation, useNavigate } from "react-router";
import { api, Problem, result } from "@/api/client";
import { t } from "@/texts/accounts";
import { TextField } from "@/ui/Field";
import { Loading } from "@/ui/states";
import { Door } from "./Door";
import { MailboxLink } from "./MailboxLink";
import { useEnter } from "./session";

/** Asks for a letter with which a new password is chosen. */
export function Forgotten() {
  const [email, setEmail] = useState("");
  const ask = useMutation({
    mutationFn: () => result(api.POST("/api/v1/password-letters", { body: { email } })),
  });
  return (
    <Door title={t("forgottenPassword")}>
      {ask.isSuccess ? (
        <>
          <p role="status">{t("ifThereIsAnAccountFor", { email })}</p>
          <MailboxLink />
        </>
      ) : (
        <form
          className="space-y-4"
          noValidate
          onSubmit={(event) => {
            event.preventDefault();
            ask.mutate();
          }}
        >
          <TextField
            label={t("eMailAddress")}
            type="email"
            autoComplete="username"
            value={email}
            onChange={setEmail}
            error={ask.error?.message}
          />
          <button type="submit" className="btn btn-primary press w-full" disabled={ask.isPending}>
            {t("sendMeALink")}
          </button>
        </form>
      )}
      <p>
        <Link className="link" to="/sign-in">
          {t("backToSigningIn")}
        </Link>
      </p>
    </Door>
  );
}

/** Chooses a new password by the link of a letter. */
export function NewPassword() {
  const token = useLocation().hash.slice(1);
  const navigate = useNavigate();
  const enter = useEnter();
  const [password, setPassword] = useState("");
  const renew = useMutation({
    retry: false,
    mutationFn: () => result(api.POST("/api/v1/passwords", { body: { token, password } })),
    onSuccess: (session) => {
      enter(session);
      navigate("/");
    },
  });
  const problem = renew.error instanceof Problem ? renew.error : null;
  return (
    <Door title={t("newPassword")}>
      <form
        className="space-y-4"
        noValidate
        onSubmit={(event) => {
          event.preventDefault();
          renew.mutate();
        }}
      >
        <TextField
          label={t("newPassword")}
          type="password"
          autoComplete="new-password"
          value={password}
          onChange={setPassword}
          error={
            problem?.byField.password ?? (problem && !problem.errors.length ? problem.message : undefined)
          }
          hint={t("n10CharactersOrMoreFourOrdinary")}
        />
        <button type="submit" className="btn btn-primary press w-full" disabled={renew.isPending}>
          {t("useThisPassword")}
        </button>
      </form>
    </Door>
  );
}

/** Confirms an e-mail address by the link of a letter. */
export function Verify() {
  const token = useLocation().hash.slice(1);
  const verified = useQuery({
    queryKey: ["verification", token],
    queryFn: async () => {
      await result(api.POST("/api/v1/account/verification", { body: { token } }));
      return true;
    },
    retry: false,
    staleTime: Number.POSITIVE_INFINITY,
  });
  if (verified.isPending) return <Loading what={t("theLetter")} />;
  return (
    <Door title={verified.isError ? t("notConfirmed") : t("addressConfirmed")}>
      <p role={verified.isError ? "alert" : "status"}>
        {verified.isError ? verified.error.message : t("thankYouLettersFromUlmaticReach")}
      </p>
      <Link className="btn btn-primary press w-full" to="/">
        {t("goToYourSites")}
      </Link>
    </Door>
  );
}
