import { ChevronDown } from "lucide-react";
import { Button, ComboBox, FieldError, Input, Label, ListBox, ListBoxItem, Popover, Text } from "react-aria-components";
import { t } from "@/texts/ui";
import type { ChoiceBoxProps } from "./ChoiceBox";

/** The choice once it is searched. */
export function OpenChoiceBox({ label, value, onChange, options, error, hint, aside, disabled }: ChoiceBoxProps) {
  return (
    <ComboBox
      className="min-w-0"
      selectedKey={value}
      onSelectionChange={(key) => (key === null ? undefined : onChange(String(key)))}
      isInvalid={Boolean(error)}
      isDisabled={disabled ?? false}
      defaultItems={options.map(([id, name]) => ({ id, name }))}
      key={options.length}
    >
      <div className="mb-1 flex items-baseline justify-between gap-2">
        <Label className="text-sm font-semibold">{label}</Label>
        {aside}
      </div>
      <span className={`input press flex w-full items-center pr-0 ${error ? "input-error" : ""}`}>
        <Input className="min-w-0 grow truncate" spellCheck={false} autoFocus />
        <Button className="flex h-full w-9 items-center justify-center" aria-label={t("showAll")}>
          <ChevronDown size={16} />
        </Button>
      </span>
      {hint && !error ? (
        <Text slot="description" className="mt-1 block text-sm text-base-content/70">
          {hint}
        </Text>
      ) : null}
      {error ? (
        <FieldError className="mt-1 block text-sm font-medium text-error">
          {() => <span role="alert">{error}</span>}
        </FieldError>
      ) : null}
      <Popover className="z-40 max-h-72 w-(--trigger-width) overflow-y-auto rounded-box border border-base-300 bg-base-100 p-1 shadow-lg">
        <ListBox<{ id: string; name: string }>
          className="outline-none"
          renderEmptyState={() => <p className="px-2 py-1 text-base-content/75">{t("nothingFound")}</p>}
        >
          {(item) => (
            <ListBoxItem
              id={item.id}
              textValue={item.name}
              className="cursor-pointer rounded px-2 py-1.5 outline-none data-focused:bg-base-200 data-selected:font-semibold"
            >
              {item.name}
            </ListBoxItem>
          )}
        </ListBox>
      </Popover>
    </ComboBox>
  );
}
