import { useUses } from "./site";

/** The uses of ground, as the options of a select. */
export function UseOptions() {
  const { data: uses } = useUses();
  return uses?.map((use) => (
    <option key={use.use} value={use.use}>
      {use.label}
    </option>
  ));
}
