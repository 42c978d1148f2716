/** What is wrong with a form as a whole. */
export function Sentence({ text }: { text: string | undefined }) {
  return text ? (
    <p className="text-error" role="alert">
      {text}
    </p>
  ) : null;
}
