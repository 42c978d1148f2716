import type { ComponentProps } from "react";

const LOOKS = {
  primary: "btn-primary",
  ghost: "btn-ghost",
  outline: "btn-outline",
  small: "btn-sm",
  large: "btn-lg",
  square: "btn-square",
  wide: "w-full",
};

type Looks = { [Look in keyof typeof LOOKS]?: boolean };

interface Props extends ComponentProps<"button">, Looks {
  /** Whether it is there at all. */
  shown?: boolean;
}

/** A button; unless its type says otherwise it sends no form. */
export function Button({ className = "", shown = true, ...props }: Props) {
  if (!shown) return null;
  const { primary, ghost, outline, small, large, square, wide, ...rest } = props;
  const looks = { primary, ghost, outline, small, large, square, wide };
  const classes = Object.entries(LOOKS).filter(([look]) => looks[look as keyof Looks]);
  return (
    <button
      type="button"
      {...rest}
      className={["btn press", ...classes.map(([, name]) => name), className].join(" ")}
    />
  );
}
