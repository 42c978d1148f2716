// Runs before the first paint, so that a chosen theme does not flash.
try {
  const theme = localStorage.getItem("ulmatic.theme");
  if (theme) document.documentElement.dataset.theme = theme;
} catch {}
