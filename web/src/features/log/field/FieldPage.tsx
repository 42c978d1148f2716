import { CloudOff, RefreshCw } from "lucide-react";
import { useCallback, useEffect, useRef, useState } from "react";
import { Link, useSearchParams } from "react-router";
import { t } from "@/texts/log";
import { Button } from "@/ui/Button";
import { Notices } from "@/ui/Notices";
import { aboutDepth } from "@/ui/precision";
import { Select } from "@/ui/Select";
import { Units } from "@/ui/units";
import { FieldEntry, type Subject } from "./FieldEntry";
import { FieldTasks } from "./FieldTasks";
import { lastPerson, type Person, seeSites, signedIn } from "./seen";
import { sendWaiting } from "./sending";
import { type FieldSite, lastUses, sitesOf, type Waiting, waitingOf } from "./store";
import { WaitingList } from "./WaitingList";

type Signal = "looking" | "online" | "offline" | "signed out";

const AGAIN_MS = 15_000;

/** Entries written down where they are seen, with or without signal: a plot, a depth, save. */
export function FieldPage() {
  const [params, setParams] = useSearchParams();
  const [person, setPerson] = useState<Person | null>(lastPerson);
  const [signal, setSignal] = useState<Signal>("looking");
  const [sites, setSites] = useState<FieldSite[]>([]);
  const [waiting, setWaiting] = useState<Waiting[]>([]);
  const [uses, setUses] = useState<Map<string, number>>(new Map());
  const [notices, setNotices] = useState<string[]>([]);
  const [looking, look] = useState(false);
  const busy = useRef(false);
  const hasAsked = useRef(false);

  const show = useCallback(async (id: string) => {
    const [nextSites, nextWaiting, nextUses] = await Promise.all([sitesOf(id), waitingOf(id), lastUses()]);
    setSites(nextSites);
    setWaiting(nextWaiting);
    setUses(nextUses);
  }, []);

  const sync = useCallback(async () => {
    if (busy.current) {
      hasAsked.current = true;
      return;
    }
    busy.current = true;
    hasAsked.current = false;
    try {
      const known = await signedIn();
      if (!known) {
        setSignal("signed out");
        return;
      }
      setPerson(known.person);
      await show(known.person.id);
      const outcome = await sendWaiting(known.person.id, (sentences) =>
        setNotices((before) => [...sentences, ...before].slice(0, 6)),
      );
      if (outcome === "sent") await seeSites(known);
      await show(known.person.id);
      setSignal(outcome === "sent" ? "online" : outcome);
    } catch {
      setSignal("offline");
    } finally {
      busy.current = false;
      // Somebody asked while it was under way: what was written since is sent too.
      if (hasAsked.current) void sync();
    }
  }, [show]);

  useEffect(() => {
    document.title = `${t("fieldMode")} · Ulmatic`;
    void navigator.serviceWorker?.register("/sw.js");
    void navigator.storage?.persist?.();
    const last = lastPerson();
    if (last) void show(last.id);
    void sync();
    const retry = setInterval(() => void sync(), AGAIN_MS);
    const online = () => void sync();
    const offline = () => setSignal("offline");
    window.addEventListener("online", online);
    window.addEventListener("offline", offline);
    return () => {
      clearInterval(retry);
      window.removeEventListener("online", online);
      window.removeEventListener("offline", offline);
    };
  }, [show, sync]);

  if (!person || signal === "signed out") {
    return <SignedOut waiting={person ? waiting.length : 0} />;
  }
  const site = sites.find((other) => other.siteId === params.get("site")) ?? sites[0];
  const subjects: Subject[] = site
    ? [
        ...site.plots.map((plot) => ({ ...plot, pile: false })),
        ...site.piles.map((pile) => ({ ...pile, pile: true, depth: null })),
      ]
    : [];
  const chosen = subjects.find((subject) => subject.id === params.get("of"));
  const open = (id: string | null) => {
    const next = new URLSearchParams(params);
    if (id) next.set("of", id);
    else next.delete("of");
    setParams(next, { replace: true });
  };
  const written = async () => {
    open(null);
    await show(person.id);
    void sync();
  };
  return (
    <Units value={site?.units ?? "metric"}>
      <div className="mx-auto flex min-h-dvh max-w-md flex-col" data-testid="field" data-signal={signal}>
        <header className="flex h-14 items-center gap-2 border-b border-base-300 bg-base-100 px-3">
          <h1 className="text-xl">{t("fieldMode")}</h1>
          <span className="grow" />
          {signal === "offline" ? (
            <span className="inline-flex items-center gap-1 text-sm font-semibold">
              <CloudOff size={18} aria-hidden /> {t("noSignal")}
            </span>
          ) : null}
          {waiting.length > 0 ? (
            <Button small onClick={() => look(!looking)} data-testid="waiting">
              {t("waitingEntries", { count: waiting.length })}
            </Button>
          ) : null}
          {site ? (
            <Link
              to={`/w/${site.workspaceId}/sites/${site.siteId}/log`}
              className="link press inline-flex items-center"
            >
              {t("theWholeLog")}
            </Link>
          ) : null}
        </header>
        <main id="main" className="grow p-3">
          {looking && waiting.length > 0 ? (
            <WaitingList waiting={waiting} changed={() => void show(person.id).then(sync)} />
          ) : null}
          {chosen && site ? (
            <FieldEntry
              key={chosen.id}
              subject={chosen}
              site={site}
              user={person.id}
              tasks={
                chosen.pile ? null : (
                  <FieldTasks
                    plot={chosen}
                    site={site}
                    user={person.id}
                    waiting={waiting.filter((entry) => entry.report).map((entry) => String(entry.entry.key))}
                    written={() => void show(person.id).then(sync)}
                  />
                )
              }
              close={() => open(null)}
              written={() => void written()}
            />
          ) : (
            <>
              {sites.length > 1 ? (
                <Select
                  className="mb-3 w-full text-lg"
                  label={t("site")}
                  value={site?.siteId ?? ""}
                  onChange={(other) => setParams({ site: other }, { replace: true })}
                  options={sites.map((other): [string, string] => [other.siteId, other.name])}
                />
              ) : null}
              <Notices notices={notices.map((notice) => notice.replace(/[{}]/g, ""))} className="mb-3" />
              <Subjects
                subjects={[...subjects].sort((a, b) => (uses.get(b.id) ?? 0) - (uses.get(a.id) ?? 0))}
                open={open}
                units={site?.units ?? "metric"}
              />
              {sites.length === 0 ? (
                <p>{signal === "looking" ? t("sitesAreBeingFetched") : t("noSiteOnThisPhone")}</p>
              ) : null}
              <Button ghost className="mt-3" onClick={() => void sync()}>
                <RefreshCw size={17} /> {t("fetchAndSendNow")}
              </Button>
            </>
          )}
        </main>
      </div>
    </Units>
  );
}

interface Props {
  subjects: Subject[];
  open: (id: string) => void;
  units: FieldSite["units"];
}

function Subjects({ subjects, open, units }: Props) {
  return (
    <ul className="space-y-2" aria-label={t("plotsAndPiles")}>
      {subjects.map((subject) => (
        <li key={subject.id}>
          <Button wide className="h-16 justify-between px-4 text-lg" onClick={() => open(subject.id)}>
            <span className="truncate font-semibold">{subject.name}</span>
            <span className="font-normal whitespace-nowrap">
              {subject.depth ? aboutDepth(subject.depth.middle, units) : t("pile")}
            </span>
          </Button>
        </li>
      ))}
    </ul>
  );
}

function SignedOut({ waiting }: { waiting: number }) {
  return (
    <main id="main" className="mx-auto max-w-md space-y-3 p-4" data-testid="field" data-signal="signed out">
      <h1 className="text-2xl">{t("fieldMode")}</h1>
      {waiting > 0 ? <p>{t("entriesWaitForTheirWriter", { count: waiting })}</p> : null}
      <Link to="/sign-in?next=/field" className="btn btn-primary press">
        {t("signIn")}
      </Link>
    </main>
  );
}
