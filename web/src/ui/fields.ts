import { useEffect, useState } from "react";
import { type DefaultValues, get, type Path, type PathValue, useForm } from "react-hook-form";
import { Problem } from "@/api/client";
import { store, stored } from "./stored";

interface Options<Texts> {
  /** What the fields hold at first. */
  start: Texts;
  /** Under which name the draft is kept over a reload or a lost connection; without, there is none. */
  draft?: string;
  /** What the server said to the last attempt; its sentences appear at their fields. */
  problem?: unknown;
}

/** The texts of a form: kept as a draft while they are typed, with the server's sentences at their fields. */
export function useFields<Texts extends object>({ start, draft, problem }: Options<Texts>) {
  const place = draft && `ulmatic.draft.2.${draft}`;
  const [kept] = useState(() => (place ? stored<Partial<Texts>>(place) : undefined));
  const form = useForm<Texts>({ defaultValues: { ...start, ...kept } as DefaultValues<Texts> });
  const [changed, setChanged] = useState(kept !== undefined);
  const { setError, clearErrors, setValue, getValues, reset } = form;
  const refused = problem instanceof Problem ? problem : null;
  useEffect(() => {
    clearErrors();
    refused?.errors.forEach(({ field, detail }, index) => {
      setError(field as Path<Texts>, { message: detail }, { shouldFocus: index === 0 });
    });
  }, [refused, setError, clearErrors]);

  const values = form.watch() as Texts;
  const set = (name: string, value: unknown) => {
    setChanged(true);
    setValue(name as Path<Texts>, value as PathValue<Texts, Path<Texts>>);
    clearErrors(name as Path<Texts>);
    if (place) store(place, getValues());
  };
  const change = (next: Partial<Texts>) => {
    for (const [name, value] of Object.entries(next)) set(name, value);
  };
  const errorAt = (name: string): string | undefined =>
    (get(form.formState.errors, name) as { message?: string } | undefined)?.message;
  const field = <Name extends keyof Texts & string>(name: Name) => {
    const { ref, onBlur } = form.register(name as string as Path<Texts>);
    return {
      name,
      ref,
      onBlur,
      value: values[name],
      onChange: (value: Texts[Name]) => set(name, value),
      error: errorAt(name),
    };
  };
  return {
    values,
    changed,
    change,
    field,
    errorAt,
    /** The server's sentence on the form as a whole. */
    sentence: refused && refused.errors.length === 0 && !refused.outage ? refused.message : undefined,
    /** Forgets the draft and goes back to `to`, else keeps what is typed. */
    clear: (to?: Texts) => {
      if (place) localStorage.removeItem(place);
      setChanged(false);
      if (to) reset(to as DefaultValues<Texts>);
    },
    onSubmit: (submit: (texts: Texts) => void) => (event: { preventDefault: () => void }) => {
      event.preventDefault();
      clearErrors();
      submit(getValues());
    },
  };
}
