import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { Problem } from "@/api/client";
import { useRequests } from "@/api/requests";
import type { DeliveryOut, Hazard, PileOut, ReceiptEntry, UnitSystem } from "@/api/schema.gen";
import { MaterialSelect } from "@/features/materials/MaterialSelect";
import { Effects } from "@/features/supply/OffersTab";
import { useStockChanges } from "@/features/supply/supply";
import { useSite } from "@/features/survey/site";
import { t } from "@/texts/stock";
import { today } from "@/ui/clock";
import { SelectField, TextField } from "@/ui/Field";
import { FormFoot } from "@/ui/FormFoot";
import { useFields, useSettledTexts } from "@/ui/fields";
import { aboutDistance, aboutHeight } from "@/ui/precision";
import { Tick } from "@/ui/Tick";
import { useUnits } from "@/ui/units";
import { Value } from "@/ui/working";
import { MeasuredFields } from "./MeasuredFields";
import { emptyMeasured, type MeasuredTexts, measuredEmpty, measuredEntry } from "./measured";
import { WORRIES } from "./worries";

interface Texts {
  id: string;
  name: string;
  material: string;
  received_on: string;
  chipped_on: string;
  place: string;
  cost: string;
  note: string;
  worries: Hazard[];
  measured: MeasuredTexts;
}

function receiptEntry(texts: Texts, units: UnitSystem): ReceiptEntry {
  const [sort, key] = texts.place.split(":");
  return {
    units,
    received_on: texts.received_on,
    chipped_on: texts.chipped_on || null,
    material: texts.material,
    measured: measuredEntry(texts.measured),
    pile_id: sort === "pile" ? (key ?? null) : null,
    landmark_id: sort === "place" ? (key ?? null) : null,
    note: texts.note,
    worries: texts.worries as NonNullable<ReceiptEntry["worries"]>,
  };
}

interface Props {
  delivery: DeliveryOut | undefined;
  piles: PileOut[];
  close: () => void;
}

/** Receives a load: what it is, how much, where it was tipped; and says what that does for the ground. */
export function ReceiveForm({ delivery, piles, close }: Props) {
  const { workspaceId = "" } = useParams();
  const shownUnits = useUnits();
  const { sheet } = useSite();
  const { path, arrive, receive } = useStockChanges();
  const { siteApi, key } = useRequests();
  const units = sheet.data?.site.units ?? shownUnits;
  const places: [string, string][] = [
    ...(sheet.data?.landmarks ?? [])
      .filter((landmark) => landmark.landmark.kind !== "way")
      .map((landmark): [string, string] => [`place:${landmark.id}`, landmark.name]),
    ...piles
      .filter((pile) => pile.landmark_id === null)
      .map((pile): [string, string] => [`pile:${pile.id}`, pile.name]),
    ["new:", t("elsewhereAsANewPile")],
  ];
  const [start] = useState(
    (): Texts => ({
      id: crypto.randomUUID(),
      name: delivery?.name ?? "",
      material: delivery?.material ?? "arborist_leafy",
      received_on: today(),
      chipped_on: "",
      place: places[0]?.[0] ?? "new:",
      cost: "0",
      note: "",
      worries: delivery?.worries ?? [],
      measured: emptyMeasured("heap", units),
    }),
  );
  const saving = delivery ? receive : arrive;
  const form = useFields<Texts>({
    start,
    draft: `${workspaceId}.${path.site_id}.receipt.${delivery?.id ?? "new"}`,
    problem: saving.error,
  });
  const [settled, rests] = useSettledTexts(form);
  const measured = !measuredEmpty(settled.measured);
  const body = receiptEntry(settled, units);
  const query = useQuery({
    queryKey: key("plot", "receipt", body),
    queryFn: () => siteApi.post("/receipt-estimate", { body }),
    enabled: measured && rests,
    placeholderData: keepPreviousData,
    retry: false,
  });
  const asTyped = query.error instanceof Problem ? query.error.byField : {};
  const errorAt = (name: string) => form.errorAt(name) ?? asTyped[name];
  const estimate = query.isError || !measured ? undefined : query.data;
  const clearAndClose = () => {
    form.clear();
    close();
  };
  const save = (texts: Texts) => {
    const entry = receiptEntry(texts, units);
    if (delivery) receive.mutate({ delivery, entry }, { onSuccess: clearAndClose });
    else
      arrive.mutate(
        { ...entry, id: texts.id, name: texts.name.trim() || t("aLoad"), cost: texts.cost },
        { onSuccess: clearAndClose },
      );
  };
  const field = (name: "name" | "received_on" | "chipped_on" | "cost" | "note") => ({
    ...form.field(name),
    error: errorAt(name),
  });
  return (
    <form
      noValidate
      className="space-y-3 border-t-4 border-primary bg-base-100 p-4"
      aria-label={t("receiveALoad")}
      onSubmit={form.onSubmit(save)}
    >
      <h2 className="text-xl">{delivery ? t("receive", { name: delivery.name }) : t("receiveALoad")}</h2>
      {delivery ? null : <TextField label={t("name")} {...field("name")} hint={t("forExampleTheSupplier")} autoFocus />}
      <MaterialSelect
        workspaceId={workspaceId}
        label={t("material")}
        value={form.values.material}
        change={(material) => form.change({ material })}
        error={errorAt("material")}
      />
      <p className="text-sm">
        <Link className="link" to={`/w/${workspaceId}/materials/guess`}>
          {t("notSureIdentifyTheMaterial")}
        </Link>
      </p>
      <MeasuredFields
        value={form.values.measured}
        change={(measured) => form.change({ measured })}
        units={units}
        errorAt={errorAt}
        ways={["heap", "barrows", "weight", "stated"]}
      />
      {estimate ? (
        <div data-testid="receipt">
          <Value figure={estimate.volume} className="display text-3xl text-primary" />
          {form.values.place.startsWith("pile:") ? (
            <p className="text-sm text-base-content/75">
              {t("withWhatIsAlreadyThereThe", {
                height: aboutHeight(estimate.stand.height_m, shownUnits),
                length: aboutDistance(estimate.stand.length_m, shownUnits),
              })}
            </p>
          ) : null}
          <Effects effect={estimate.effect} />
        </div>
      ) : null}
      <SelectField
        label={t("tippedAt")}
        {...form.field("place")}
        options={places}
        error={errorAt("landmark_id") ?? errorAt("pile_id")}
      />
      <div className="grid grid-cols-2 gap-3">
        <TextField label={t("receivedOnHeading")} type="date" {...field("received_on")} />
        <TextField label={t("chippedOn")} type="date" {...field("chipped_on")} hint={t("ifKnown")} />
        {delivery ? null : <TextField label={t("paid")} {...field("cost")} />}
      </div>
      <fieldset>
        <legend className="text-sm font-semibold">{t("concerns")}</legend>
        {WORRIES.map(([key, words]) => (
          <Tick
            key={key}
            checked={form.values.worries.includes(key)}
            onChange={(checked) => {
              const others = form.texts().worries.filter((worry) => worry !== key);
              form.change({ worries: checked ? [...others, key] : others });
            }}
          >
            {words}
          </Tick>
        ))}
        <p className="text-sm text-base-content/70">{t("concernsAreKeptWithTheLoad")}</p>
      </fieldset>
      <TextField label={t("note")} {...field("note")} />
      <FormFoot sentence={form.sentence} busy={saving.isPending} save={t("saveDelivery")} close={close} />
    </form>
  );
}
