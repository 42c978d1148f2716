import { Copy, Search } from "lucide-react";
import { useState } from "react";
import { Link, useParams } from "react-router";
import type { MaterialOut } from "@/api/schema.gen";
import { useMay, useWorkspaceUnits } from "@/features/accounts/session";
import { t } from "@/texts/materials";
import { Button } from "@/ui/Button";
import { valueText } from "@/ui/format";
import { Loading, Trouble } from "@/ui/states";
import { Units, useUnits } from "@/ui/units";
import { rangeOf, Sourced, Value } from "@/ui/working";
import { useMaterials, useOwnMaterials } from "./materials";
import { Swatch } from "./Swatch";

export const HAZARDS: Record<string, string> = {
  weed_seed: t("mayBringWeedSeed"),
  herbicide: t("mayCarryWeedkiller"),
  juglone: t("carriesJuglone"),
  dye: t("dyeFades"),
  theobromine: t("poisonousToDogs"),
  raw_manure: t("rawManureWaitBeforeHarvest"),
  blows: t("blowsAbout"),
  mats: t("matsOrPacks"),
};

/** The shelf: own materials and the catalogue, with one opened. */
export function Materials() {
  const { workspaceId = "", materialKey } = useParams();
  const may = useMay();
  const units = useWorkspaceUnits();
  const materials = useMaterials(workspaceId);
  const [sought, seek] = useState("");
  if (materials.isPending) return <Loading what={t("theMaterials")} />;
  if (materials.isError) return <Trouble error={materials.error} retry={() => materials.refetch()} />;
  const open = materials.data.find((material) => material.material.key === materialKey);
  const words = sought.trim().toLowerCase();
  const listed = materials.data.filter(({ material }) =>
    `${material.name} ${material.what}`.toLowerCase().includes(words),
  );
  const home = `/w/${workspaceId}/materials`;
  return (
    <Units value={units}>
      <div className="grid h-full lg:grid-cols-[minmax(0,1fr)_25rem]">
        <div className={`min-h-0 overflow-y-auto p-4 sm:p-6 ${open ? "hidden lg:block" : ""}`}>
          <div className="mb-3 flex flex-wrap items-center gap-2">
            <h1 className="mr-auto text-3xl">{t("materials")}</h1>
            <Link to={`${home}/guess`} className="btn btn-primary press">
              <Search size={17} /> {t("identifyTheMaterial")}
            </Link>
            {may.edit ? (
              <Link to={`${home}/own/new`} className="btn press">
                {t("mixOrCreateOne")}
              </Link>
            ) : null}
            <Link to={`${home}/pile`} className="btn press">
              {t("mixAPile")}
            </Link>
          </div>
          <label className="input press mb-2 flex w-full max-w-sm items-center">
            <span className="sr-only">{t("searchForAMaterial")}</span>
            <input value={sought} onChange={(event) => seek(event.target.value)} placeholder={t("strawConifer")} />
          </label>
          <ul className="divide-y divide-base-300 border-y border-base-300" aria-label={t("materials")}>
            {listed.map((out) => (
              <Row key={out.material.key} out={out} home={home} chosen={out.material.key === materialKey} />
            ))}
          </ul>
          {listed.length === 0 ? <p className="py-4">{t("noMaterialHasThisName")}</p> : null}
        </div>
        {open ? (
          <Opened out={open} home={home} edit={may.edit} workspaceId={workspaceId} />
        ) : (
          <p className="hidden border-l border-base-300 p-6 text-base-content/75 lg:block">
            {t("chooseAMaterialToSeeIts")}
          </p>
        )}
      </div>
    </Units>
  );
}

function Row({ out, home, chosen }: { out: MaterialOut; home: string; chosen: boolean }) {
  const units = useUnits();
  const { material, own } = out;
  return (
    <li className={chosen ? "border-l-4 border-l-primary bg-base-100" : "hover:bg-base-100"}>
      <Link
        to={`${home}/${material.key}`}
        aria-current={chosen ? "true" : undefined}
        className="grid grid-cols-[3.5rem_1fr] items-center gap-x-3 px-2 py-2 sm:grid-cols-[3.5rem_1fr_auto]"
      >
        <Swatch material={material} />
        <span className="min-w-0">
          <span className="block font-semibold">
            {material.name}
            {own ? <span className="ml-2 text-sm font-normal text-primary">{t("own")}</span> : null}
          </span>
          <span className="block truncate text-sm text-base-content/75">{material.what}</span>
        </span>
        <span className="col-start-2 text-sm text-base-content/75 sm:col-start-3 sm:text-right">
          {t("cN", { ratio: valueText(material.cn.value, "ratio", units) })}
          <span className="max-sm:hidden sm:block">
            {t("decay", { rate: valueText(material.rate.value, "factor", units) })}
          </span>
        </span>
      </Link>
    </li>
  );
}

interface Props {
  out: MaterialOut;
  home: string;
  edit: boolean;
  workspaceId: string;
}

function Opened({ out, home, edit, workspaceId }: Props) {
  const units = useUnits();
  const { remove } = useOwnMaterials(workspaceId);
  const { material, own } = out;
  const hazards = material.hazards ?? [];
  return (
    <article className="min-h-0 overflow-y-auto border-base-300 p-4 lg:border-l" aria-label={material.name}>
      <Link to={home} className="btn btn-ghost press lg:hidden">
        {t("allMaterials")}
      </Link>
      <Swatch material={material} large />
      <h2 className="mt-2 text-2xl">{material.name}</h2>
      <p>{material.what}</p>
      {hazards.length > 0 ? (
        <p className="my-2 border-l-4 border-warning pl-3 text-sm font-semibold">
          {hazards.map((hazard) => HAZARDS[hazard] ?? hazard).join("; ")}
        </p>
      ) : null}
      <dl className="my-3 grid grid-cols-2 gap-3">
        <div>
          <dt className="text-sm text-base-content/75">{t("usualWeight")}</dt>
          <dd>
            <Value figure={out.wet_density} className="display text-xl" />
          </dd>
        </div>
        <div>
          <dt className="text-sm text-base-content/75">{t("nitrogenOfDryMass")}</dt>
          <dd>
            <Value figure={out.nitrogen} className="display text-xl" />
          </dd>
        </div>
      </dl>
      <ul className="divide-y divide-base-300 border-y border-base-300">
        {(["density", "moisture", "carbon", "cn", "settling", "rate"] as const).map((field) => {
          const figure = material[field];
          return (
            <li key={field} className="grid grid-cols-[1fr_auto] gap-x-3 py-2">
              <span className="font-semibold">{figure.name}</span>
              <span className="text-right">
                {valueText(figure.value, figure.unit, units)}
                {rangeOf(figure, units) ? (
                  <span className="text-base-content/70"> ({rangeOf(figure, units)})</span>
                ) : null}
              </span>
              <span className="col-span-2">
                <Sourced figure={figure} />
              </span>
            </li>
          );
        })}
      </ul>
      {edit ? (
        <div className="mt-3 flex flex-wrap gap-2">
          {own ? (
            <>
              <Link to={`${home}/own/${material.key}`} className="btn btn-primary press">
                {t("change")}
              </Link>
              <Button ghost className="text-error" onClick={() => remove.mutate(out)}>
                {t("delete")}
              </Button>
            </>
          ) : null}
          {material.kind === "sheet" ? null : (
            <Link to={`${home}/own/new?from=${material.key}`} className="btn press">
              <Copy size={16} /> {t("copyAsOwnMaterial")}
            </Link>
          )}
        </div>
      ) : null}
    </article>
  );
}
