interface Props {
  text: string | undefined;
  className?: string;
}

/** What is wrong, with a form as a whole or with what was asked. */
export function Sentence({ text, className = "" }: Props) {
  return text ? (
    <p className={`text-error ${className}`} role="alert">
      {text}
    </p>
  ) : null;
}
