import type { ComponentProps } from "react";

type Options<Choice extends string> = readonly (readonly [Choice, string])[] | Record<Choice, string>;

interface Props<Choice extends string> extends Omit<ComponentProps<"select">, "value" | "onChange"> {
  /** What it is called where no label stands beside it. */
  label?: string;
  value: Choice;
  onChange: (value: Choice) => void;
  /** What can be chosen: value and words, after the options that are its children. */
  options?: Options<Choice>;
}

/** A choice of a few, by the words of each. */
export function Select<Choice extends string>(props: Props<Choice>) {
  const { label, value, onChange, options = [], className = "", children, ...rest } = props;
  const pairs = Array.isArray(options) ? options : Object.entries<string>(options as Record<Choice, string>);
  return (
    <select
      aria-label={label}
      className={`select press ${className}`}
      {...rest}
      value={value}
      onChange={(event) => onChange(event.target.value as Choice)}
    >
      {children}
      {pairs.map(([key, words]) => (
        <option key={key} value={key}>
          {words}
        </option>
      ))}
    </select>
  );
}

/** Options of what has an id and a name. */
export const namesOf = (rows: { id: string; name: string }[]) =>
  rows.map(({ id, name }): [string, string] => [id, name]);
