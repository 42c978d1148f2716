interface Props<Choice extends string> {
  label: string;
  value: Choice | undefined;
  options: readonly (readonly [Choice, string])[];
  choose: (value: Choice) => void;
  /** Looks of the row, of each button, and of those that are not chosen. */
  className?: string;
  button?: string;
  rest?: string;
}

/** A few choices side by side, of which one is pressed. */
export function Segments<Choice extends string>(props: Props<Choice>) {
  const { label, value, options, choose, className = "", button = "", rest = "" } = props;
  return (
    <div className={`join ${className}`} role="group" aria-label={label}>
      {options.map(([key, words]) => (
        <button
          key={key}
          type="button"
          aria-pressed={value === key}
          className={`btn join-item press ${button} ${value === key ? "btn-neutral" : rest}`}
          onClick={() => choose(key)}
        >
          {words}
        </button>
      ))}
    </div>
  );
}
