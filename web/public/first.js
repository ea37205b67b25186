// The theme that this device was left in, before the first picture (src/theme/useTheme.ts).
try {
  if (localStorage.getItem("dorrik.theme") === "dim") document.documentElement.className = "dark";
} catch {
  // Without storage it is day.
}
