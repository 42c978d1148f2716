import { X } from "lucide-react";
import { useEffect, useSyncExternalStore } from "react";
import { useLocation, useNavigate, useParams } from "react-router";
import { useSession } from "@/features/accounts/session";
import { t } from "@/texts/app";
import { Button } from "@/ui/Button";
import { store, stored } from "@/ui/stored";
import { useHere } from "./here";

const PLACE = "ulmatic.round";

interface State {
  /** Which stop; beyond the last when it is done. */
  at: number;
  /** Left, and can be taken up again. */
  left: boolean;
  site: string | null;
}

const NONE: State = { at: -1, left: false, site: null };
const listeners = new Set<() => void>();
let state: State = { ...NONE, ...stored<Partial<State>>(PLACE) };

function change(next: Partial<State>) {
  state = { ...state, ...next };
  store(PLACE, state);
  for (const listener of listeners) listener();
}

/** The stops: a page of the site, what is outlined there, and what is said of it. */
const STOPS: { page: string; mark: string; title: string; text: string }[] = [
  {
    page: "",
    mark: '[data-testid="strip"]',
    title: t("theSeason"),
    text: t("thisStripIsTheSameOn"),
  },
  {
    page: "",
    mark: '[data-testid="ground"]',
    title: t("ground"),
    text: t("thePlanIsTrueToScale"),
  },
  {
    page: "/order",
    mark: '[data-testid="order-lines"]',
    title: t("order"),
    text: t("wholeLoadsFromYourSuppliersAt"),
  },
  {
    page: "/work",
    mark: '[data-testid="turns"]',
    title: t("work"),
    text: t("theOrderInWhichPlotsAre"),
  },
  {
    page: "/seasons",
    mark: '[data-testid="ribbon"]',
    title: t("seasons"),
    text: t("theDepthOfEveryPlotOver"),
  },
  {
    page: "/nitrogen",
    mark: '[data-testid="account"]',
    title: t("nitrogen"),
    text: t("whatChipsBorrowFromTheSoil"),
  },
  {
    page: "/log",
    mark: '[data-testid="log"]',
    title: t("log"),
    text: t("whatWasMeasuredAndLaidEach"),
  },
];

/** Whether a guided round is offered, and how it is begun or taken up again. */
export function useRound() {
  const { data: session } = useSession();
  const { siteId } = useParams();
  useSyncExternalStore(subscribe, () => state);
  return {
    offered: Boolean(session?.user?.demo_until) && Boolean(siteId ?? state.site),
    start: () =>
      change({
        at: state.at >= 0 && state.at < STOPS.length ? state.at : 0,
        left: false,
        site: siteId ?? state.site,
      }),
  };
}

function subscribe(listener: () => void) {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

/** The guided round of the demo: at most seven stops, each on the page that it tells of. */
export function Round() {
  const { data: session } = useSession();
  const { siteId } = useParams();
  const workspace = useHere();
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const { at, left, site } = useSyncExternalStore(subscribe, () => state);
  const demo = Boolean(session?.user?.demo_until);
  const stop = demo && !left && site ? STOPS[at] : undefined;
  const base = `/w/${workspace?.id}/sites/${site}`;
  // biome-ignore lint/correctness/useExhaustiveDependencies: whoever walks on by themselves is not called back
  useEffect(() => {
    if (stop && pathname !== `${base}${stop.page}`) navigate(`${base}${stop.page}`);
  }, [stop]);
  useEffect(() => {
    if (!stop) return;
    let marked: Element | null = null;
    const mark = () => {
      const element = document.querySelector(stop.mark);
      if (element === marked) return;
      marked?.removeAttribute("data-round");
      element?.setAttribute("data-round", "");
      element?.scrollIntoView({ block: "nearest" });
      marked = element;
    };
    mark();
    const watcher = new MutationObserver(mark);
    watcher.observe(document.body, { childList: true, subtree: true });
    return () => {
      watcher.disconnect();
      marked?.removeAttribute("data-round");
    };
  }, [stop]);
  if (!demo) return null;
  if (!stop) {
    // Only where nothing is being filled in.
    if (at !== -1 || left || !siteId || !pathname.endsWith(siteId)) return null;
    return (
      <Card title={t("aGuidedRoundOfThisSite")} leave={() => change({ left: true })}>
        <p>{t("sevenStopsAboutThreeMinutesYou")}</p>
        <div className="mt-2 flex gap-2">
          <Button primary onClick={() => change({ at: 0, site: siteId })}>
            {t("start")}
          </Button>
          <Button onClick={() => change({ left: true })}>{t("notNow")}</Button>
        </div>
      </Card>
    );
  }
  const last = at === STOPS.length - 1;
  return (
    <Card
      title={stop.title}
      note={t("stopOf", { stop: at + 1, stops: STOPS.length })}
      leave={() => change({ left: true })}
    >
      <p>{stop.text}</p>
      <div className="mt-2 flex gap-2">
        <Button primary onClick={() => change(last ? { at: STOPS.length } : { at: at + 1 })}>
          {last ? t("finish") : t("nextStop")}
        </Button>
        {at > 0 ? <Button onClick={() => change({ at: at - 1 })}>{t("previousStop")}</Button> : null}
      </div>
    </Card>
  );
}

interface Props {
  title: string;
  note?: string;
  leave: () => void;
  children: React.ReactNode;
}

function Card({ title, note, leave, children }: Props) {
  return (
    <aside
      aria-label={t("guidedRound")}
      className="fixed right-3 bottom-20 left-3 z-30 border-2 border-accent bg-base-100 p-4 shadow-lg sm:left-auto sm:w-96 lg:bottom-4 print:hidden"
    >
      <div className="flex items-start justify-between gap-3">
        <div>
          {note ? <p className="text-sm text-base-content/75">{note}</p> : null}
          <h2 className="text-xl">{title}</h2>
        </div>
        <button
          type="button"
          className="btn btn-ghost btn-square btn-sm min-h-11 min-w-11"
          aria-label={t("leaveTheRound")}
          onClick={leave}
        >
          <X size={18} />
        </button>
      </div>
      {children}
    </aside>
  );
}
