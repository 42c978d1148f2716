import {
  type ChangeEvent,
  type ComponentProps,
  type FocusEvent,
  type ReactNode,
  type Ref,
  type SyntheticEvent,
  useId,
} from "react";
import { type OfForm, useField } from "./fields";
import { Select } from "./Select";

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
  const note = error ?? hint;
  return (
    <div className="min-w-0">
      <div className="mb-1 flex items-baseline justify-between gap-2">
        <label htmlFor={id} className="text-sm font-semibold">
          {label}
        </label>
        {aside}
      </div>
      {children({ id, describedBy: note ? `${id}-below` : undefined, invalid: Boolean(error) })}
      {note ? (
        <p
          id={`${id}-below`}
          className={`mt-1 text-sm ${error ? "font-medium text-error" : "text-base-content/70"}`}
          role={error ? "alert" : undefined}
        >
          {note}
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
  /** More than one makes it a field of several lines. */
  rows?: number;
  /** Told the text and where in it the caret stands, whenever that changes. */
  onCaret?: (text: string, caret: number) => void;
  autoComplete?: string;
  autoFocus?: boolean;
  disabled?: boolean;
  name?: string;
  /** What was typed here before, offered again. */
  known?: string[];
  ref?: Ref<HTMLInputElement & HTMLTextAreaElement>;
  onBlur?: (event: FocusEvent<HTMLElement>) => void;
  onFocus?: (event: FocusEvent<HTMLInputElement & HTMLTextAreaElement>) => void;
}

export function TextField(props: TextProps | OfForm<TextProps>) {
  return "control" in props ? <FormTextField {...props} /> : <TextBox {...props} />;
}

function FormTextField({ control, ...props }: OfForm<TextProps>) {
  return <TextBox {...props} value={useField({ control, name: props.name })} />;
}

function TextBox(props: TextProps) {
  const { label, value, onChange, error, hint, aside, unit, type = "text", rows, onCaret, known, ...rest } = props;
  return (
    <FieldFrame label={label} error={error} hint={hint} aside={aside}>
      {({ id, describedBy, invalid }) => {
        const shared = {
          id,
          value,
          "aria-invalid": invalid,
          "aria-describedby": describedBy,
          spellCheck: false,
          onChange: (event: ChangeEvent<HTMLInputElement | HTMLTextAreaElement>) => onChange(event.target.value),
          onSelect: (event: SyntheticEvent<HTMLInputElement | HTMLTextAreaElement>) =>
            onCaret?.(event.currentTarget.value, event.currentTarget.selectionStart ?? 0),
          ...rest,
        };
        if (rows) {
          return (
            <textarea
              {...shared}
              rows={rows}
              className={`textarea w-full text-sm leading-snug ${invalid ? "textarea-error" : ""}`}
            />
          );
        }
        return (
          <span className={`input press flex w-full items-center ${invalid ? "input-error" : ""}`}>
            <input {...shared} type={type} list={known?.length ? `${id}-known` : undefined} className="min-w-0 grow" />
            {known?.length ? (
              <datalist id={`${id}-known`}>
                {known.map((text) => (
                  <option key={text} value={text} />
                ))}
              </datalist>
            ) : null}
            {unit ? <span className="text-sm text-base-content/65">{unit}</span> : null}
          </span>
        );
      }}
    </FieldFrame>
  );
}

interface SelectProps<Choice extends string> extends ComponentProps<typeof Select<Choice>> {
  label: string;
  error?: string | undefined;
  hint?: ReactNode;
  aside?: ReactNode;
}

export function SelectField<Choice extends string>(props: SelectProps<Choice> | OfForm<SelectProps<Choice>>) {
  return "control" in props ? <FormSelectField {...props} /> : <SelectBox {...props} />;
}

function FormSelectField<Choice extends string>({ control, ...props }: OfForm<SelectProps<Choice>>) {
  return <SelectBox {...props} value={useField<Choice>({ control, name: props.name })} />;
}

function SelectBox<Choice extends string>(props: SelectProps<Choice>) {
  const { label, error, hint, aside, ...rest } = props;
  return (
    <FieldFrame label={label} error={error} hint={hint} aside={aside}>
      {({ id, describedBy }) => <Select id={id} aria-describedby={describedBy} className="w-full" {...rest} />}
    </FieldFrame>
  );
}
