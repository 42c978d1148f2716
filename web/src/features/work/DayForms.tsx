import { useState } from "react";
import type { CalendarSheet, Occasion } from "@/api/schema.gen";
import { useMay } from "@/features/accounts/session";
import { t } from "@/texts/work";
import { Button } from "@/ui/Button";
import { TextField } from "@/ui/Field";
import { useChanges, useCrew, wishesFor } from "./days";

interface Props {
  occasion: Occasion;
  move: (occasion: Occasion, to: string | null) => void;
}

/** Puts work on another day, or lets the plan choose one. */
export function MoveForm({ occasion, move }: Props) {
  const [open, setOpen] = useState(false);
  const [to, setTo] = useState(occasion.on);
  if (!open) {
    return (
      <>
        <button type="button" className="link press" onClick={() => setOpen(true)}>
          {t("moveToAnotherDay")}
        </button>
        {occasion.fixed ? (
          <button type="button" className="link press" onClick={() => move(occasion, null)}>
            {t("letThePlanChoose")}
          </button>
        ) : null}
      </>
    );
  }
  return (
    <form
      className="flex items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        setOpen(false);
        move(occasion, to);
      }}
    >
      <TextField label={t("moveTo")} type="date" value={to} onChange={setTo} autoFocus />
      <Button type="submit" primary disabled={to === ""}>
        {t("move")}
      </Button>
    </form>
  );
}

/** Says which crew does some work, where a site has several. */
export function CrewForm({ occasion, known }: { occasion: Occasion; known: string[] }) {
  const { make } = useChanges();
  const [open, setOpen] = useState(false);
  const [crew, setCrew] = useState(occasion.crews?.[0] ?? "");
  if (!open) {
    return (
      <button type="button" className="link press" onClick={() => setOpen(true)}>
        {occasion.crews?.length ? t("changeTheCrew") : t("assignACrew")}
      </button>
    );
  }
  return (
    <form
      className="flex items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        make.mutate(
          wishesFor(occasion).map((wish) => ({ ...wish, crew })),
          { onSuccess: () => setOpen(false) },
        );
      }}
    >
      <TextField
        label={t("crew")}
        value={crew}
        onChange={setCrew}
        known={known}
        error={make.error?.message}
        autoFocus
      />
      <Button type="submit" primary disabled={make.isPending}>
        {t("set")}
      </Button>
    </form>
  );
}

/** How many people work on a day, where that differs. */
export function PeopleForm({ sheet, day }: { sheet: CalendarSheet; day: string }) {
  const may = useMay();
  const crew = useCrew();
  const people = sheet.people ?? {};
  const [count, setCount] = useState(String(people[day] ?? sheet.crew));
  if (!may.edit) return null;
  const save = () => {
    if (!/^\d{1,2}$/.test(count.trim())) return;
    const { [day]: _, ...others } = people;
    const typedPeople = Number(count);
    crew.mutate({ people: typedPeople === sheet.crew ? others : { ...others, [day]: typedPeople } });
  };
  return (
    <form
      className="flex items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        save();
      }}
    >
      <TextField
        label={t("peopleOnThisDay")}
        value={count}
        onChange={setCount}
        error={/^\d{1,2}$/.test(count.trim()) ? undefined : t("typeAWholeNumber")}
      />
      <Button type="submit" small disabled={crew.isPending}>
        {t("set")}
      </Button>
    </form>
  );
}
