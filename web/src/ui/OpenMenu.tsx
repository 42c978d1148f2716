import { Button, Menu as List, MenuItem, MenuTrigger, Popover, RouterProvider, Separator } from "react-aria-components";
import { useHref, useNavigate } from "react-router";
import type { MenuProps } from "./Menu";

/** A button with the list of pages and acts that it opens; groups are divided by a line. */
export function OpenMenu({ label, groups, children, className = "btn btn-ghost press" }: MenuProps) {
  const navigate = useNavigate();
  const filled = groups.filter((group) => group.length > 0);
  return (
    <RouterProvider navigate={(to) => void navigate(to)} useHref={useHref}>
      <MenuTrigger defaultOpen>
        <Button className={className}>
          <span className="sr-only">{label}</span>
          {children}
        </Button>
        <Popover
          placement="bottom end"
          className="z-40 max-h-[80dvh] min-w-60 overflow-y-auto rounded-box border border-base-300 bg-base-100 p-1.5 shadow-lg"
        >
          <List aria-label={label} className="outline-none">
            {filled.flatMap((group, at) => [
              ...(at > 0
                ? [<Separator key={`line-${group[0]?.key}`} className="my-1.5 border-0 border-t border-base-300" />]
                : []),
              ...group.map((entry) => (
                <MenuItem
                  key={entry.key}
                  id={entry.key}
                  textValue={entry.label}
                  {...(entry.href ? { href: entry.href } : {})}
                  {...(entry.press ? { onAction: entry.press } : {})}
                  className="press flex cursor-pointer items-center gap-3 rounded px-3 outline-none data-focused:bg-base-200"
                >
                  <span className={`grow ${entry.current ? "font-semibold" : ""}`}>{entry.label}</span>
                  {entry.note ? <span className="text-sm text-base-content/75">{entry.note}</span> : null}
                </MenuItem>
              )),
            ])}
          </List>
        </Popover>
      </MenuTrigger>
    </RouterProvider>
  );
}
