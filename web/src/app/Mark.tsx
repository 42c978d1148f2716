/** The mark: an elm's winged seed, which is also a mulched ring round a trunk. */
export function Mark({ size = 28 }: { size?: number }) {
  return <img src="/mark.svg" alt="" width={size} height={size} />;
}
