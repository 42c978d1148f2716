import { useState } from "react";

type Theme = "limewash" | "peat";
const KEY = "ulmatic.theme";

export function useTheme() {
  const chosen = document.documentElement.dataset.theme as Theme | undefined;
  const dark = matchMedia("(prefers-color-scheme: dark)").matches;
  const [theme, set] = useState<Theme>(chosen ?? (dark ? "peat" : "limewash"));
  const toggle = () => {
    const next = theme === "peat" ? "limewash" : "peat";
    document.documentElement.dataset.theme = next;
    localStorage.setItem(KEY, next);
    set(next);
  };
  return { dark: theme === "peat", toggle };
}
