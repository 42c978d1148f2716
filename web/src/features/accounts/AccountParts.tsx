import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { useChange } from "@/api/change";
import { api } from "@/api/client";
import { useStale } from "@/api/stale";
import { t } from "@/texts/accounts";
import { Button } from "@/ui/Button";
import { TextField } from "@/ui/Field";
import { useFields } from "@/ui/fields";
import { day } from "@/ui/format";
import { Sentence } from "@/ui/Sentence";
import { MailboxLink } from "./MailboxLink";
import { OLD_PASSWORD } from "./passwords";
import { useSession } from "./session";

/** Whether the address was confirmed; nothing waits for it. */
export function Address() {
  const { data: session } = useSession();
  const ask = useChange(() => api.post("/account/verification-letter"));
  const user = session?.user;
  if (!user) return null;
  if (user.demo_until) {
    return (
      <p className="border-l-4 border-accent bg-base-100 p-3">
        {t("thisDemoIsYoursAloneIt", { day: day(user.demo_until.slice(0, 10)) })}
      </p>
    );
  }
  if (!session.letters) return null;
  if (user.verified_at) return <p>{t("confirmed", { email: user.email })}</p>;
  return (
    <div className="space-y-2 border-l-4 border-accent bg-base-100 p-3">
      <p>{t("isNotConfirmedYetUseThe", { email: user.email })}</p>
      {ask.isSuccess ? (
        <p role="status">{t("anotherEMailHasBeenSent")}</p>
      ) : (
        <Button small disabled={ask.isPending} onClick={() => ask.mutate()}>
          {t("sendTheEMailAgain")}
        </Button>
      )}
      <Sentence text={ask.error?.message} />
      <MailboxLink />
    </div>
  );
}

/** The devices that are signed in. */
export function SignIns() {
  const refresh = useStale("signIns");
  const list = useQuery({
    queryKey: ["sign-ins"],
    queryFn: () => api.get("/account/sign-ins"),
  });
  const end = useChange(
    (sign_in_id: string) => api.delete("/account/sign-ins/{sign_in_id}", { path: { sign_in_id } }),
    refresh,
  );
  return (
    <section className="space-y-2 border-t border-base-300 pt-6">
      <h2 className="text-xl">{t("signedInDevices")}</h2>
      <ul className="divide-y divide-base-300 border-y border-base-300" data-testid="sign-ins">
        {(list.data ?? []).map((device) => (
          <li key={device.id} className="flex flex-wrap items-center gap-3 py-2">
            <span className="min-w-0 grow">
              {browserOf(device.device)}
              {device.here ? ` ${t("thisDevice")}` : ""}
              <span className="block text-sm text-base-content/75">
                {t("sinceLastSeen", {
                  day: day(device.started_at.slice(0, 10)),
                  day2: day(device.seen_at.slice(0, 10)),
                })}
              </span>
            </span>
            {device.here ? null : (
              <Button small onClick={() => end.mutate(device.id)}>
                {t("signOutDevice")}
              </Button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** Browser and system as a person would name them. */
export function browserOf(device: string): string {
  const browser = ["Firefox", "Edg", "OPR", "Chrome", "Safari"].find((name) => device.includes(name));
  const system = ["Android", "iPhone", "iPad", "Windows", "Mac OS", "Linux"].find((name) => device.includes(name));
  const named = browser === "Edg" ? "Edge" : browser === "OPR" ? "Opera" : browser;
  if (!named && !system) return t("otherProgram");
  return [named ?? t("browser"), system ? t("on", { system }) : ""].filter(Boolean).join(" ");
}

/** Deletes the account after a while. */
export function Leave() {
  const navigate = useNavigate();
  const cache = useQueryClient();
  const leave = useMutation({
    retry: false,
    mutationFn: (body: { password: string }) => api.post("/account/departure", { body }),
    onSuccess: () => {
      navigate("/sign-in");
      cache.clear();
    },
  });
  const form = useFields({ start: { password: "" }, problem: leave.error });
  return (
    <details className="border-t border-base-300 pt-6">
      <summary className="press text-xl">{t("deleteMyAccount")}</summary>
      <form className="mt-3 space-y-3" onSubmit={form.onSubmit((texts) => leave.mutate(texts))}>
        <p>{t("theAccountIsDeletedAfter14")}</p>
        <TextField
          label={t("yourPassword")}
          {...OLD_PASSWORD}
          {...form.field("password")}
          error={form.errorAt("password") ?? form.sentence}
        />
        <Button type="submit" outline className="btn-error" disabled={leave.isPending}>
          {t("deleteMyAccountIn14Days")}
        </Button>
      </form>
    </details>
  );
}
