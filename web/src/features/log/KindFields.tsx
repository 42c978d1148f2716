import type { EntryFieldOut, LogKindOut, UnitSystem } from "@/api/schema.gen";
import { t } from "@/texts/log";
import { SelectField, TextField } from "@/ui/Field";
import { type Form, FormPart } from "@/ui/fields";
import { Tick } from "@/ui/Tick";
import { placeOf, unitOf } from "./kinds";

/** What is typed of an entry, by the places of its kinds' fields. */
export type KindTexts = Record<string, string>;

interface KindFieldsProps {
  kind: LogKindOut;
  form: Form<KindTexts>;
  units: UnitSystem;
  chosen?: string | undefined;
  /** Whether depths mean mulch as it is spread. */
  spread?: boolean;
  /** What follows from what is typed. */
  hint?: string | undefined;
  /** Whether the first of them is typed into at once. */
  focus?: boolean;
}

/** The fields of a kind of entry, as the server describes them; of those of which one is typed, the chosen one.
 *  A material is chosen elsewhere. */
export function KindFields({ kind, form, units, chosen, spread = false, hint, focus = false }: KindFieldsProps) {
  return kind.fields
    .filter(({ type, either, name }) => type !== "material" && (!either || name === chosen))
    .map((field, index) => (
      <KindField
        key={placeOf(kind.kind, field.name)}
        field={{
          ...field,
          label: labelOf(field, spread),
          hint: (field.either ? hint : undefined) ?? field.hint,
        }}
        place={placeOf(kind.kind, field.name)}
        form={form}
        units={units}
        focus={focus && index === 0}
      />
    ));
}

export const labelOf = (field: EntryFieldOut, spread: boolean) => (spread ? field.label_spread : null) ?? field.label;

interface KindFieldProps {
  field: EntryFieldOut;
  place: string;
  form: Form<KindTexts>;
  units: UnitSystem;
  focus: boolean;
}

function KindField({ field, place, form, units, focus }: KindFieldProps) {
  const { name, label, type, choices, start } = field;
  const hint = field.hint ?? undefined;
  const shared = { label, ...form.field(place), error: form.errorAt(`entry.${name}`), hint };
  if (choices.length > 0) {
    const options = choices.map((choice): [string, string] => [choice.value, choice.label]);
    return <SelectField {...shared} options={start === null ? [["", t("notSaid")], ...options] : options} />;
  }
  if (type === "flag") {
    return (
      <FormPart form={form} names={[place]}>
        {(texts) => (
          <Tick
            className="self-end py-2"
            checked={texts[place] === "yes"}
            onChange={(checked) => form.change({ [place]: checked ? "yes" : "" })}
          >
            {label}
          </Tick>
        )}
      </FormPart>
    );
  }
  return <TextField {...shared} type={type === "day" ? "date" : "text"} unit={unitOf(type, units)} autoFocus={focus} />;
}
