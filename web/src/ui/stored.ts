/** What is kept in the browser under a name; undefined where there is nothing that can be read. */
export function stored<Value>(place: string): Value | undefined {
  try {
    const text = localStorage.getItem(place);
    return text === null ? undefined : (JSON.parse(text) as Value);
  } catch {
    return undefined;
  }
}

export function store(place: string, value: unknown) {
  localStorage.setItem(place, JSON.stringify(value));
}
