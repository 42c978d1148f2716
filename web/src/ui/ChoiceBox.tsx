import { ChevronDown } from "lucide-react";
import { type ReactNode, Suspense, useState } from "react";
import { FieldFrame } from "./Field";
import { lazily } from "./lazily";

export interface ChoiceBoxProps {
  label: string;
  value: string;
  onChange: (value: string) => void;
  /** What can be chosen: value and words. */
  options: [string, string][];
  error?: string | undefined;
  hint?: ReactNode;
  aside?: ReactNode;
  disabled?: boolean;
}

const OpenChoiceBox = lazily(() => import("./OpenChoiceBox"), "OpenChoiceBox");

/** A choice among many, found by typing a part of its name; the search is fetched when it is first wanted. */
export function ChoiceBox(props: ChoiceBoxProps) {
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
