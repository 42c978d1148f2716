import { ChevronDown } from "lucide-react";
import { lazy, type ReactNode, Suspense, useState } from "react";
import { FieldFrame } from "./Field";

export interface ChoiceBoxProps<Choice extends string> {
  label: string;
  value: Choice;
  onChange: (value: Choice) => void;
  /** What can be chosen: value and words. */
  options: [Choice, string][];
  error?: string | undefined;
  hint?: ReactNode;
  aside?: ReactNode;
  disabled?: boolean;
}

const OpenChoiceBox = lazy(() =>
  import("./OpenChoiceBox").then(({ OpenChoiceBox }) => ({ default: OpenChoiceBox })),
) as typeof import("./OpenChoiceBox").OpenChoiceBox;

/** A choice among many, found by typing a part of its name; the search is fetched when it is first wanted. */
export function ChoiceBox<Choice extends string>(props: ChoiceBoxProps<Choice>) {
  const [wanted, setWanted] = useState(false);
  const { label, value, options, error, hint, aside, disabled } = props;
  const closed = (
    <FieldFrame label={label} error={error} hint={hint} aside={aside}>
      {({ id, describedBy, invalid }) => (
        <span className={`input press flex w-full items-center ${invalid ? "input-error" : ""}`}>
          <input
            id={id}
            role="combobox"
            aria-expanded={false}
            aria-controls={`${id}-list`}
            aria-describedby={describedBy}
            aria-invalid={invalid}
            className="min-w-0 grow truncate"
            readOnly
            disabled={disabled}
            value={options.find(([key]) => key === value)?.[1] ?? ""}
            onFocus={() => setWanted(true)}
          />
          <ChevronDown size={16} aria-hidden />
        </span>
      )}
    </FieldFrame>
  );
  return wanted ? (
    <Suspense fallback={closed}>
      <OpenChoiceBox {...props} />
    </Suspense>
  ) : (
    closed
  );
}
