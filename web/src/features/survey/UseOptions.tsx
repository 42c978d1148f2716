import { useUses } from "./site";

/** The uses of ground, as the options of a select. */
export function UseOptions() {
  const { data: uses } = useUses();
  return uses?.map((one) => (
    <option key={one.use} value={one.use}>
      {one.label}
    </option>
  ));
}
