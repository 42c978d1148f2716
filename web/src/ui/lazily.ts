import { type ComponentType, lazy } from "react";

/** A component whose code is fetched when it is first drawn; `name` is what its module calls it. */
export function lazily<Props, Name extends string>(
  load: () => Promise<Record<Name, ComponentType<Props>>>,
  name: Name,
) {
  return lazy<ComponentType<Props>>(async () => ({ default: (await load())[name] }));
}
