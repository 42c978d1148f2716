import { type ReactNode, useEffect, useState } from "react";
import {
  type Control,
  type DefaultValues,
  type FieldValues,
  get,
  type Path,
  type PathValue,
  useForm,
  useWatch,
} from "react-hook-form";
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

/** The texts of a form: kept as a draft while they are typed, with the server's sentences at their fields.
 *
 *  A field draws itself anew with every key, the form only where it reads that field's value while it draws. */
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

  const control = form.control as unknown as Control<FieldValues>;
  const watch = (name: string) => form.watch(name as Path<Texts>);
  const values = new Proxy({} as Texts, {
    get: (_, name) => (typeof name === "string" ? watch(name) : undefined),
    ownKeys: () => Reflect.ownKeys(form.watch()),
    getOwnPropertyDescriptor: (_, name) => ({
      value: watch(String(name)),
      enumerable: true,
      configurable: true,
    }),
  });
  const set = (name: string, value: unknown) => {
    setChanged(true);
    setValue(name as Path<Texts>, value as PathValue<Texts, Path<Texts>>);
    if (form.getFieldState(name as Path<Texts>).error) clearErrors(name as Path<Texts>);
    if (place) store(place, getValues());
  };
  const change = (next: Partial<Texts>) => {
    for (const [name, value] of Object.entries(next)) set(name, value);
  };
  const errorAt = (name: string): string | undefined =>
    (get(form.formState.errors, name) as { message?: string } | undefined)?.message;
  /** A field, with the sentence that the server has for it there, or for `at`. */
  const field = <Name extends Path<Texts>>(name: Name, at: string = name) => {
    const { ref, onBlur } = form.register(name);
    return {
      name,
      ref,
      onBlur,
      control,
      onChange: (value: PathValue<Texts, Name>) => set(name, value),
      error: errorAt(at),
    };
  };
  return {
    /** What the fields hold, for what is drawn: reading one draws anew with its every key. */
    values,
    /** What the fields hold, for what is done. */
    texts: () => getValues(),
    control,
    /** Calls with every key, until what it returns is called. */
    onTyping: (call: () => void) => form.subscribe({ formState: { values: true }, callback: call }),
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

/** A box whose text is that of a form's field. */
export type OfForm<Props> = Omit<Props, "value"> & { control: Control<FieldValues>; name: string };

/** What a form's field holds. */
export function useField<Value>({ control, name }: { control: Control<FieldValues>; name: string }): Value {
  return useWatch({ control, name }) as Value;
}

export type Form<Texts extends object> = ReturnType<typeof useFields<Texts>>;

/** A part of a form that draws itself anew when some of its fields change. */
export function FormPart<Texts extends object, Name extends keyof Texts & string>({
  form,
  names,
  children,
}: {
  form: Form<Texts>;
  names: Name[];
  children: (values: Pick<Texts, Name>) => ReactNode;
}) {
  const watched: unknown[] = useWatch({ control: form.control, name: names });
  return children(Object.fromEntries(names.map((name, index) => [name, watched[index]])) as Pick<Texts, Name>);
}

const PAUSE_MS = 120;

/** A value that is typed outside a form, once nothing has been typed for a moment. */
export function useSettled<Value>(value: Value): Value {
  const text = JSON.stringify(value);
  const [settled, settle] = useState(text);
  useEffect(() => {
    const timer = setTimeout(() => settle(text), PAUSE_MS);
    return () => clearTimeout(timer);
  }, [text]);
  return JSON.parse(settled) as Value;
}

/** The texts of a form once nothing has been typed for a moment, and whether that is so: what the server is asked. */
export function useSettledTexts<Texts extends object>({
  texts,
  onTyping,
}: Pick<Form<Texts>, "texts" | "onTyping">): [Texts, boolean] {
  const [settled, settle] = useState(() => JSON.stringify(texts()));
  const [rests, rest] = useState(true);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the form is the same as long as it is shown
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout>;
    const stop = onTyping(() => {
      clearTimeout(timer);
      rest(false);
      timer = setTimeout(() => {
        settle(JSON.stringify(texts()));
        rest(true);
      }, PAUSE_MS);
    });
    return () => {
      clearTimeout(timer);
      stop();
    };
  }, []);
  return [JSON.parse(settled) as Texts, rests];
}
