import type { ComponentProps, ReactNode } from "react";
import { FieldFrame } from "./Field";

interface Props extends Pick<ComponentProps<"input">, "accept" | "capture"> {
  take: (file: File) => void;
}

export const PHOTOS = "image/jpeg,image/png,image/webp";

/** A button that asks for a file; the same file can be chosen again. */
export function FileButton({ take, children, className, ...rest }: Props & { children: ReactNode; className: string }) {
  return (
    <label className={`btn press ${className}`}>
      {children}
      <input
        type="file"
        className="sr-only"
        {...rest}
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) take(file);
          event.target.value = "";
        }}
      />
    </label>
  );
}

/** A field that shows which file was chosen. */
export function FileField({
  label,
  error,
  hint,
  take,
  ...rest
}: Props & { label: string; error?: string | undefined; hint?: string | undefined }) {
  return (
    <FieldFrame label={label} error={error} hint={hint}>
      {({ id, describedBy }) => (
        <input
          id={id}
          aria-describedby={describedBy}
          type="file"
          className="file-input press w-full"
          {...rest}
          onChange={(event) => {
            const file = event.target.files?.[0];
            if (file) take(file);
          }}
        />
      )}
    </FieldFrame>
  );
}
