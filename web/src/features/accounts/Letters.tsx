import { useMutation, useQuery } from "@tanstack/react-query";
import { Link, useLocation, useNavigate } from "react-router";
import { useChange } from "@/api/change";
import { api } from "@/api/client";
import { t } from "@/texts/accounts";
import { Button } from "@/ui/Button";
import { TextField } from "@/ui/Field";
import { useFields } from "@/ui/fields";
import { Loading } from "@/ui/states";
import { MailboxLink } from "./MailboxLink";
import { NEW_PASSWORD } from "./passwords";
import { SignInFrame } from "./SignInFrame";
import { useEnter } from "./session";

/** Asks for a letter with which a new password is chosen. */
export function Forgotten() {
  const ask = useChange((body: { email: string }) => api.post("/password-letters", { body }));
  const form = useFields({ start: { email: "" }, problem: ask.error });
  return (
    <SignInFrame title={t("forgottenPassword")}>
      {ask.isSuccess ? (
        <>
          <p role="status">{t("ifThereIsAnAccountFor", form.values)}</p>
          <MailboxLink />
        </>
      ) : (
        <form className="space-y-4" noValidate onSubmit={form.onSubmit((texts) => ask.mutate(texts))}>
          <TextField
            label={t("eMailAddress")}
            type="email"
            autoComplete="username"
            {...form.field("email")}
            error={form.errorAt("email") ?? ask.error?.message}
          />
          <Button type="submit" primary wide disabled={ask.isPending}>
            {t("sendALink")}
          </Button>
        </form>
      )}
      <p>
        <Link className="link" to="/sign-in">
          {t("backToSignIn")}
        </Link>
      </p>
    </SignInFrame>
  );
}

/** Chooses a new password by the link of a letter. */
export function NewPassword() {
  const token = useLocation().hash.slice(1);
  const navigate = useNavigate();
  const enter = useEnter();
  const renew = useMutation({
    retry: false,
    mutationFn: ({ password }: { password: string }) => api.post("/passwords", { body: { token, password } }),
    onSuccess: (session) => {
      enter(session);
      navigate("/");
    },
  });
  const form = useFields({ start: { password: "" }, problem: renew.error });
  return (
    <SignInFrame title={t("newPassword")}>
      <form className="space-y-4" noValidate onSubmit={form.onSubmit((texts) => renew.mutate(texts))}>
        <TextField
          label={t("newPassword")}
          {...NEW_PASSWORD}
          {...form.field("password")}
          error={form.errorAt("password") ?? form.sentence}
          hint={t("atLeast10CharactersFourOrdinary")}
        />
        <Button type="submit" primary wide disabled={renew.isPending}>
          {t("savePassword")}
        </Button>
      </form>
    </SignInFrame>
  );
}

/** Confirms an e-mail address by the link of a letter. */
export function Verify() {
  const token = useLocation().hash.slice(1);
  const verified = useQuery({
    queryKey: ["verification", token],
    queryFn: async () => {
      await api.post("/account/verification", { body: { token } });
      return true;
    },
    retry: false,
    staleTime: Number.POSITIVE_INFINITY,
  });
  if (verified.isPending) return <Loading what={t("theEMail")} />;
  return (
    <SignInFrame title={verified.isError ? t("eMailAddressNotConfirmed") : t("eMailAddressConfirmed")}>
      <p role={verified.isError ? "alert" : "status"}>
        {verified.isError ? verified.error.message : t("thankYouUlmaticCanNowSend")}
      </p>
      <Link className="btn btn-primary press w-full" to="/">
        {t("goToYourSites")}
      </Link>
    </SignInFrame>
  );
}
