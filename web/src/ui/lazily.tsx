import { type ComponentType, use } from "react";

/** A component whose code is fetched when it is first drawn, or before by `fetchCode`; `name` is what its module
 *  calls it. Code that is there is drawn at once: React holds back what it had to wait for by a third of a second. */
export function lazily<Props extends object, Name extends string>(
  load: () => Promise<Record<Name, ComponentType<Props>>>,
  name: Name,
) {
  let fetched: ComponentType<Props> | undefined;
  let fetching: Promise<ComponentType<Props>> | undefined;
  const fetchCode = () => {
    fetching ??= load().then(
      (module) => {
        fetched = module[name];
        return module[name];
      },
      (error: unknown) => {
        fetching = undefined;
        throw error;
      },
    );
    return fetching;
  };
  // biome-ignore lint/correctness/noComponentHookFactories: made once for each page, when its module is read.
  function Lazy(props: Props) {
    const Content = fetched ?? use(fetchCode());
    return <Content {...props} />;
  }
  return Object.assign(Lazy, { fetchCode });
}
