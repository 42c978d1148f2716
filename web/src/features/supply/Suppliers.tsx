import { Plus } from "lucide-react";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import type { SupplierOut, UnitSystem } from "@/api/schema.gen";
import { useMay, useWorkspaceCurrency, useWorkspaceUnits } from "@/features/accounts/session";
import { MaterialSelect } from "@/features/materials/MaterialSelect";
import { useMaterials } from "@/features/materials/materials";
import { t } from "@/texts/supply";
import { Button } from "@/ui/Button";
import { SelectField, TextField } from "@/ui/Field";
import { useFields } from "@/ui/fields";
import { PLACEHOLDER } from "@/ui/format";
import { Sentence } from "@/ui/Sentence";
import { Empty, Loading, Trouble } from "@/ui/states";
import { Months } from "./Months";
import { emptySupplier, KIND_LABELS, KINDS, type SupplierTexts, supplierEntry, supplierTexts, terms } from "./sources";
import { useSupplierChanges, useSuppliers } from "./supply";

/** Everybody chips can be had from, for all sites of the workspace. */
export function Suppliers() {
  const { workspaceId = "", supplierId } = useParams();
  const may = useMay();
  const units = useWorkspaceUnits();
  const currency = useWorkspaceCurrency(units);
  const suppliers = useSuppliers(workspaceId);
  const { data: materials } = useMaterials(workspaceId);
  if (suppliers.isPending || currency === undefined) return <Loading what={t("yourSuppliers")} />;
  if (suppliers.isError) return <Trouble error={suppliers.error} retry={() => suppliers.refetch()} />;
  const chosen = suppliers.data.find((supplier) => supplier.id === supplierId);
  const open = supplierId === "new" || chosen !== undefined;
  const named = (key: string) => materials?.find((material) => material.material.key === key)?.material.name ?? key;
  return (
    <div className="grid h-full grid-cols-[minmax(0,1fr)] lg:grid-cols-[minmax(0,1fr)_26rem]">
      <div className={`min-h-0 overflow-y-auto p-4 sm:p-6 ${open ? "hidden lg:block" : ""}`}>
        <div className="mb-3 flex items-center justify-between gap-4">
          <h1 className="text-3xl">{t("suppliers")}</h1>
          {may.edit ? (
            <Link to={`/w/${workspaceId}/suppliers/new`} className="btn btn-primary press" data-key="n">
              <Plus size={18} /> {t("supplier")}
            </Link>
          ) : null}
        </div>
        {suppliers.data.length === 0 ? (
          <Empty title={t("noSuppliersYet")}>
            <p className="max-w-prose">{t("addTreeCrewsYardsAndMerchants")}</p>
          </Empty>
        ) : (
          <ul className="divide-y divide-base-300 border-y border-base-300" data-testid="suppliers">
            {suppliers.data.map((supplier) => (
              <li key={supplier.id}>
                <Link
                  to={`/w/${workspaceId}/suppliers/${supplier.id}`}
                  aria-current={supplier.id === supplierId}
                  className={`grid gap-x-6 gap-y-0.5 px-2 py-3 hover:bg-base-100 sm:grid-cols-[15rem_minmax(0,1fr)_auto] ${supplier.id === supplierId ? "bg-base-100" : ""}`}
                >
                  <span>
                    <span className="block text-lg leading-tight font-semibold">{supplier.name}</span>
                    <span className="text-sm text-base-content/75">{KINDS[supplier.source.kind].label}</span>
                  </span>
                  <span>
                    <span className="block">{named(supplier.source.material)}</span>
                    <span className="text-sm text-base-content/75">{terms(supplier, units)}</span>
                  </span>
                  <Months months={supplier.source.months ?? []} />
                </Link>
              </li>
            ))}
          </ul>
        )}
      </div>
      <section
        aria-label={t("supplier")}
        className={`min-h-0 flex-col border-base-300 bg-base-100 lg:border-l ${open ? "flex" : "hidden lg:flex"}`}
      >
        {open ? (
          <SupplierForm
            key={`${supplierId}.${units}`}
            stored={chosen}
            units={units}
            currency={currency}
            edit={may.edit}
          />
        ) : (
          <p className="p-6 text-base-content/75">{t("chooseASupplierToSeeOr")}</p>
        )}
      </section>
    </div>
  );
}

interface Props {
  stored: SupplierOut | undefined;
  units: UnitSystem;
  /** In which a new one is priced. */
  currency: string;
  edit: boolean;
}

function SupplierForm({ stored, units, currency, edit }: Props) {
  const { workspaceId = "" } = useParams();
  const navigate = useNavigate();
  const { add, change, remove } = useSupplierChanges(workspaceId);
  const [start] = useState(() => (stored ? supplierTexts(stored, units) : emptySupplier(units, currency)));
  const saving = stored ? change : add;
  const form = useFields<SupplierTexts>({
    start,
    draft: `${workspaceId}.supplier.${stored?.id ?? "new"}`,
    problem: saving.error,
  });
  const texts = form.values;
  const parent = `/w/${workspaceId}/suppliers`;
  const kind = KINDS[texts.kind];
  const save = () => {
    const typed = form.texts();
    const entry = supplierEntry(typed, units);
    const close = () => {
      form.clear();
      if (location.pathname.startsWith(`${parent}/`)) navigate(parent);
    };
    if (stored) change.mutate({ stored, entry }, { onSuccess: close });
    else add.mutate({ ...entry, id: typed.id }, { onSuccess: close });
  };
  const unit: Record<string, string> = {
    volume: PLACEHOLDER.volume[units],
    small: units === "us" ? t("cuFt") : "L",
    mass: units === "us" ? "lb" : "kg",
    money: texts.currency,
    per_volume: `${texts.currency}/${PLACEHOLDER.volume[units]}`,
    share: "%",
    count: "",
  };
  return (
    <form noValidate className="flex min-h-0 grow flex-col" onSubmit={form.onSubmit(save)}>
      <fieldset disabled={!edit} className="min-h-0 grow space-y-3 overflow-y-auto p-4">
        <h2 className="text-xl">{stored ? stored.name : t("newSupplier")}</h2>
        <TextField label={t("name")} {...form.field("name")} autoFocus={!stored} />
        <SelectField
          label={t("kind")}
          {...form.field("kind")}
          options={KIND_LABELS}
          hint={kind.what}
          disabled={!edit}
        />
        <MaterialSelect
          workspaceId={workspaceId}
          label={t("bringsHeading")}
          value={texts.material}
          change={(material) => form.change({ material })}
          error={form.errorAt("source.material")}
        />
        <div className="grid grid-cols-2 gap-3">
          {kind.fields.map((field) => (
            <TextField
              key={field.key}
              label={field.label}
              unit={unit[field.sort] ?? ""}
              {...form.field(`texts.${field.key}`, `source.${field.key}`)}
              hint={field.hint ?? (field.optional ? t("optional") : undefined)}
            />
          ))}
          <TextField
            label={t("currency")}
            {...form.field("currency")}
            onChange={(currency) => form.change({ currency: currency.toUpperCase() })}
            error={form.errorAt("currency") && t("threeLettersSuchAsEurOr")}
          />
        </div>
        <fieldset>
          <legend className="mb-1 text-sm font-semibold">{t("monthsOfDelivery")}</legend>
          <Months months={texts.months} {...(edit ? { change: (months: number[]) => form.change({ months }) } : {})} />
          <Sentence className="mt-1 text-sm" text={form.errorAt("source.months") && t("chooseAtLeastOneMonth")} />
        </fieldset>
        <Sentence text={form.sentence} />
      </fieldset>
      {edit ? (
        <div className="sticky bottom-0 flex flex-wrap gap-2 border-t border-base-300 bg-base-100 p-3">
          <Button type="submit" primary className="grow" disabled={saving.isPending}>
            {saving.isPending ? t("saving") : t("save")}
          </Button>
          <Link to={parent} className="btn press">
            {t("close")}
          </Link>
          {stored ? (
            <Button
              ghost
              className="text-error"
              onClick={() => remove.mutate(stored, { onSuccess: () => navigate(parent) })}
            >
              {t("delete")}
            </Button>
          ) : null}
        </div>
      ) : null}
    </form>
  );
}
