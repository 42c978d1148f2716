import type { ComponentProps } from "react";

interface Props extends Omit<ComponentProps<"input">, "onChange"> {
  onChange: (checked: boolean) => void;
  small?: boolean;
}

/** A box to tick, with its words. */
export function Tick({ onChange, small, className = "", children, ...rest }: Props) {
  return (
    <label className={`press flex items-center gap-2 ${className}`}>
      <input
        type="checkbox"
        className={`checkbox ${small ? "checkbox-sm" : ""}`}
        {...rest}
        onChange={(event) => onChange(event.target.checked)}
      />
      {children}
    </label>
  );
}
