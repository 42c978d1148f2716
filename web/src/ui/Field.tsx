import { type ReactNode, useId } from "react";

interface Frame {
  label: string;
  error?: string | undefined;
  hint?: ReactNode;
  aside?: ReactNode;
  children: (ids: { id: string; describedBy: string | undefined; invalid: boolean }) => ReactNode;
}

/** A label, its control, and beneath it either what is wrong or what was understood. */
export function FieldFrame({ label, error, hint, aside, children }: Frame) {
  const id = useId();
  const below = error ?? hint;
  return (
    <div className="min-w-0">
      <div className="mb-1 flex items-baseline justify-between gap-2">
        <label htmlFor={id} className="text-sm font-semibold">
          {label}
        </label>
        {aside}
      </div>
      {children({ id, describedBy: below ? `${id}-below` : undefined, invalid: Boolean(error) })}
      {below ? (
        <p
          id={`${id}-below`}
          className={`mt-1 text-sm ${error ? "font-medium text-error" : "text-base-content/70"}`}
          role={error ? "alert" : undefined}
        >
          {below}
        </p>
      ) : null}
    </div>
  );
}

interface TextProps {
  label: string;
  value: string;
  onChange: (value: string) => void;
  error?: string | undefined;
  hint?: ReactNode;
  aside?: ReactNode;
  unit?: string;
  type?: string;
  autoComplete?: string;
  autoFocus?: boolean;
  disabled?: boolean;
  name?: string;
}

export function TextField({
  label,
  value,
  onChange,
  error,
  hint,
  aside,
  unit,
  type = "text",
  ...rest
}: TextProps) {
  return (
    <FieldFrame label={label} error={error} hint={hint} aside={aside}>
      {({ id, describedBy, invalid }) => (
        <span className={`input press flex w-full items-center ${invalid ? "input-error" : ""}`}>
          <input
            id={id}
            type={type}
            value={value}
            onChange={(event) => onChange(event.target.value)}
            aria-invalid={invalid}
            aria-describedby={describedBy}
            className="min-w-0 grow"
            spellCheck={false}
            {...rest}
          />
          {unit ? <span className="text-sm text-base-content/65">{unit}</span> : null}
        </span>
      )}
    </FieldFrame>
  );
}
