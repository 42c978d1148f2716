import { Plus } from "lucide-react";
import { Suspense, useCallback, useEffect, useMemo, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import type { Estimate } from "@/api/schema.gen";
import { useMay } from "@/features/accounts/session";
import { cutOf } from "@/features/recipe/cutOf";
import { useSiteFrame } from "@/features/site/SiteFrame";
import { OrderInWords } from "@/features/supply/OrderInWords";
import { t } from "@/texts/survey";
import { DeferredMount } from "@/ui/DeferredMount";
import { lazily } from "@/ui/lazily";
import { Empty, Loading, Trouble } from "@/ui/states";
import { type Drawn, drawn, type XY } from "./drawn";
import { Ground } from "./Ground";
import type { Editing } from "./LandmarkForm";
import { LandmarkList } from "./LandmarkList";
import { KINDS, type LandmarkKind, type Marked } from "./landmarks";
import type { Typed } from "./PlotForm";
import { PlotList } from "./PlotList";
import { useSite } from "./site";

const NONE: ReadonlySet<string> = new Set();
const PlotForm = lazily(() => import("./PlotForm"), "PlotForm");
const LandmarkForm = lazily(() => import("./LandmarkForm"), "LandmarkForm");
const SeveralPlots = lazily(() => import("./SeveralPlots"), "SeveralPlots");
const Cut = lazily(() => import("@/features/recipe/Cut"), "Cut");

/** The site on one screen: what to order, the plots, the ground and the plot being measured. */
export function SitePage() {
  const { workspaceId = "", siteId = "", plotId, markId } = useParams();
  const may = useMay();
  const navigate = useNavigate();
  const { sheet, place, order } = useSite();
  const { showTyped } = useSiteFrame();
  const [typed, setTyped] = useState<Typed>();
  const [marked, setMarked] = useState<ReadonlySet<string>>(NONE);
  const [editing, setEditing] = useState<Editing>();
  const stored = sheet.data?.plots;
  const landmarks = sheet.data?.landmarks;
  // What is typed counts only as long as it is not among the kept plots already.
  const isNew = plotId === "new";
  const current = typed?.isNew === isNew && isNew !== Boolean(stored?.some((plot) => plot.id === typed.id));
  const estimate = current && (isNew || typed.id === plotId) ? typed.estimate : undefined;
  const pieces = useMemo(
    () =>
      onPlan(
        (stored ?? []).map((plot, index) => drawn(plot, index + 1)),
        plotId,
        estimate,
      ),
    [stored, plotId, estimate],
  );
  const marks = useMemo(() => onTheWay(landmarks ?? [], editing?.mark), [landmarks, editing?.mark]);
  const typedNow = estimate?.now;
  useEffect(() => {
    showTyped(typedNow);
    return () => showTyped(undefined);
  }, [typedNow, showTyped]);
  const takeEstimate = useCallback((next: Typed) => setTyped(next), []);
  if (sheet.isPending) return <Loading what={t("theSite")} />;
  if (sheet.isError) return <Trouble error={sheet.error} retry={() => sheet.refetch()} />;
  const { site, plots, now } = sheet.data;
  const parent = `/w/${workspaceId}/sites/${siteId}`;
  const linkTo = (id: string) => `${parent}/plots/${id}`;
  const landmark = sheet.data.landmarks.find((landmark) => landmark.id === markId);
  const newKind = markId !== undefined && markId in KINDS ? (markId as LandmarkKind) : undefined;
  const kind = newKind ?? landmark?.landmark.kind;
  const plot = plots.find((plot) => plot.id === plotId);
  const mark = (id: string) => {
    const next = new Set(marked);
    if (!next.delete(id)) next.add(id);
    setMarked(next);
  };
  const choose = (id: string, more: boolean) => {
    if (id === "new" || (newKind && editing?.press)) return;
    if (more && may.edit) mark(id);
    else navigate(sheet.data.landmarks.some((landmark) => landmark.id === id) ? `${parent}/access/${id}` : linkTo(id));
  };
  const walk = (estimate ?? plot)?.access.points ?? [];
  const shownCut =
    plotId && typed?.all && (isNew ? typed.isNew : typed.id === plotId)
      ? { estimate: typed.all, holds: typed.holds }
      : undefined;
  const open =
    marked.size > 0 || kind !== undefined || (plotId !== undefined && (plotId === "new" || plot !== undefined));

  return (
    <div className="h-full">
      <h1 className="sr-only">{t("ground")}</h1>
      <div className="flex h-full flex-col">
        <div className="grid min-h-0 grow grid-cols-[minmax(0,1fr)] lg:grid-cols-[19rem_minmax(0,1fr)_23rem]">
          <aside
            className={`flex min-h-0 flex-col border-base-300 lg:border-r ${open ? "hidden lg:flex" : "order-2 lg:order-none"}`}
          >
            <header className="flex items-center gap-1 border-b border-base-300 px-3 py-1.5">
              <h2 className="min-w-0 grow text-lg leading-tight">{t("plots", { count: plots.length })}</h2>
              {may.edit ? (
                <Link to={linkTo("new")} className="btn btn-primary press" data-key="n">
                  <Plus size={18} /> {t("plot")}
                </Link>
              ) : null}
            </header>
            <div className="min-h-0 grow overflow-y-auto">
              {plots.length === 0 ? (
                <Empty title={t("noPlotsYet")}>
                  <p>{t("startWithOneBedPathOr")}</p>
                </Empty>
              ) : (
                <PlotList
                  plots={plots}
                  chosen={plotId}
                  marked={marked}
                  linkTo={linkTo}
                  {...(may.edit ? { mark, order: order.mutate } : {})}
                />
              )}
              {plots.length > 0 || sheet.data.landmarks.length > 0 ? (
                <LandmarkList landmarks={sheet.data.landmarks} chosen={markId} back={parent} edit={may.edit} />
              ) : null}
            </div>
          </aside>
          <div
            className={`min-h-0 flex-col ${open && !kind ? "hidden lg:flex" : "order-1 flex h-80 lg:order-none lg:h-auto"}`}
          >
            <div className="min-h-0 grow">
              <Ground
                site={site}
                plots={pieces}
                marks={marks}
                walk={walk as XY[]}
                editing={editing}
                chosen={newKind ? "new" : (plotId ?? markId)}
                marked={marked}
                choose={choose}
                {...(may.edit ? { place: place.mutate } : {})}
              />
            </div>
            {shownCut ? (
              <figure
                className="hidden h-[38%] shrink-0 border-t border-base-300 bg-base-100 px-3 py-1 lg:block"
                aria-label={t("cut")}
              >
                <Suspense>
                  <Cut {...cutOf(shownCut.estimate, shownCut.holds)} />
                </Suspense>
              </figure>
            ) : null}
          </div>
          <section
            aria-label={t("plot")}
            className={`min-h-0 border-base-300 lg:border-l ${open ? "order-3 flex flex-col lg:order-none" : "order-3 overflow-y-auto"}`}
          >
            <Suspense fallback={<Loading what={t("thePlot")} />}>
              {marked.size > 0 ? (
                <SeveralPlots
                  site={site}
                  plots={plots.filter((plot) => marked.has(plot.id))}
                  done={() => setMarked(NONE)}
                />
              ) : kind ? (
                <LandmarkForm
                  key={markId}
                  site={site}
                  stored={landmark}
                  kind={kind}
                  back={parent}
                  onEditing={setEditing}
                />
              ) : open ? (
                <DeferredMount key={plotId}>
                  <PlotForm site={site} plot={plot} count={plots.length} onEstimate={takeEstimate} back={parent} />
                </DeferredMount>
              ) : (
                <>
                  {plotId || markId ? <p className="px-4 pt-4">{t("thisDoesNotExistAnyMore")}</p> : null}
                  <OrderInWords site={site} plots={plots} now={now} tips={sheet.data.tips} />
                </>
              )}
            </Suspense>
          </section>
        </div>
      </div>
    </div>
  );
}

/** Tips, pile places and ways as kept, the one being typed as it is typed. */
function onTheWay(stored: Marked[], typed: Marked | undefined): Marked[] {
  if (!typed) return stored;
  return typed.id === "new" ? [...stored, typed] : stored.map((mark) => (mark.id === typed.id ? typed : mark));
}

/** The plots as drawn, the one being typed as it is typed; a new one is set below the others. */
function onPlan(stored: Drawn[], plotId: string | undefined, estimate: Estimate | undefined): Drawn[] {
  if (!estimate || !plotId) return stored;
  const { outline, wanted_mm } = estimate;
  const typed = { outline, existing_mm: estimate.existing.value, wanted_mm };
  if (plotId !== "new") return stored.map((plot) => (plot.id === plotId ? { ...plot, ...typed } : plot));
  const floor = Math.min(
    0,
    ...stored.map((plot) => plot.place.y_m - Math.hypot(plot.outline.width_m, plot.outline.height_m) / 2),
  );
  const west = Math.min(...stored.map((plot) => plot.place.x_m - plot.outline.width_m / 2), 0);
  const place = { x_m: west + outline.width_m / 2, y_m: floor - outline.height_m / 2, turn_deg: 0 };
  return [...stored, { id: "new", number: stored.length + 1, name: "new", place, ...typed }];
}
