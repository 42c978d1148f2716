import { t } from "@/texts/accounts";
import { useSession } from "./session";

/** Where the letters of the demo are looked at: they leave this machine nowhere. */
export function MailboxLink() {
  const { data: session } = useSession();
  if (!session?.mailbox) return null;
  return (
    <p>
      <span className="mr-2 border border-base-content px-1.5 text-sm font-semibold">{t("simulated")}</span>
      <a className="link" href={session.mailbox} target="_blank" rel="noreferrer">
        {t("mailbox")}
      </a>
      {t("whereEMailsFromUlmaticArrive")}
    </p>
  );
}
