import type { CalendarSheet } from "@/api/schema.gen";
import { useMay } from "@/features/accounts/session";
import { t } from "@/texts/work";
import { Button } from "@/ui/Button";
import { TextField } from "@/ui/Field";
import { useFields } from "@/ui/fields";
import { day } from "@/ui/format";
import { Tick } from "@/ui/Tick";
import { useCrew } from "./days";

/** Days on which no work is done: nesting birds, local rules, holidays. */
export function Closures({ sheet }: { sheet: CalendarSheet }) {
  const may = useMay();
  const crew = useCrew();
  const closures = sheet.closures ?? [];
  const form = useFields({
    start: { name: "", first: "", last: "", yearly: false },
    problem: crew.error,
  });
  const count = closures.length;
  const { name, first, last, yearly } = form.values;
  return (
    <section className="max-w-3xl space-y-2" data-testid="closures">
      <h2 className="text-lg">{t("closures")}</h2>
      <p className="text-sm text-base-content/75">{t("closuresAre")}</p>
      <ul className="divide-y divide-base-300">
        {closures.map((closure, number) => (
          <li key={`${closure.name} ${closure.first}`} className="flex items-center gap-3 py-1">
            <span className="grow">
              <strong>{closure.name}</strong>, {day(closure.first)} – {day(closure.last)}
              {closure.yearly ? `, ${t("everyYear")}` : ""}
            </span>
            <Button
              shown={may.edit}
              small
              aria-label={t("deleteClosure", { name: closure.name })}
              onClick={() => crew.mutate({ closures: closures.filter((_, index) => index !== number) })}
            >
              {t("delete")}
            </Button>
          </li>
        ))}
      </ul>
      {may.edit ? (
        <form
          noValidate
          className="grid grid-cols-2 items-end gap-3 sm:grid-cols-[2fr_1fr_1fr_auto_auto]"
          aria-label={t("addAClosure")}
          onSubmit={form.onSubmit(() =>
            crew.mutate(
              { closures: [...closures, { name: name.trim(), first, last: last || first, yearly }] },
              { onSuccess: () => form.clear({ name: "", first: "", last: "", yearly: false }) },
            ),
          )}
        >
          <TextField
            label={t("why")}
            {...form.field("name")}
            error={form.errorAt(`closures.${count}.name`) && t("sayWhy")}
          />
          <TextField
            label={t("from_")}
            type="date"
            {...form.field("first")}
            error={form.errorAt(`closures.${count}.first`) && t("chooseADay")}
          />
          <TextField label={t("until")} type="date" {...form.field("last", `closures.${count}.last`)} />
          <Tick checked={yearly} onChange={(yearly) => form.change({ yearly })}>
            {t("everyYear")}
          </Tick>
          <Button type="submit" disabled={crew.isPending}>
            {t("addClosure")}
          </Button>
        </form>
      ) : null}
    </section>
  );
}
