/** Day or dim, remembered on the device. */
import { useSyncExternalStore } from "react";

const KEY = "dorrik.theme";
const listeners = new Set<() => void>();

const isDim = () => document.documentElement.classList.contains("dark");

export function applyTheme(dim: boolean): void {
  document.documentElement.classList.toggle("dark", dim);
  document.documentElement.style.colorScheme = dim ? "dark" : "light";
  document.querySelector('meta[name="theme-color"]')?.setAttribute("content", dim ? "#14171a" : "#f3efe4");
  localStorage.setItem(KEY, dim ? "dim" : "day");
  for (const listener of listeners) listener();
}

applyTheme(localStorage.getItem(KEY) === "dim");

export function useTheme(): [boolean, () => void] {
  const dim = useSyncExternalStore((listener) => {
    listeners.add(listener);
    return () => listeners.delete(listener);
  }, isDim);
  return [dim, () => applyTheme(!dim)];
}
