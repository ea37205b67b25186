import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { startTransition, StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter } from "react-router";
import { askToStay, keepApplication } from "./api/application";
import { App } from "./App";
import "./theme/looks.css";
import "./theme/fonts.css";

const queries = new QueryClient({
  defaultOptions: {
    queries: { retry: 1, refetchOnWindowFocus: false, networkMode: "always" },
    mutations: { networkMode: "always" },
  },
});

const root = createRoot(document.getElementById("root")!);

// In slices: a slow tablet answers to taps while the first screen is drawn.
startTransition(() =>
  root.render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <BrowserRouter>
          <App />
        </BrowserRouter>
      </QueryClientProvider>
    </StrictMode>,
  ),
);

// Keeps the application on the device, so that a reload without a server shows it: after the first picture, in its own time.
if (import.meta.env.PROD && "serviceWorker" in navigator)
  window.addEventListener("load", () => setTimeout(() => void keep(), 3000));

async function keep(): Promise<void> {
  await keepApplication();
  await askToStay();
}

// A screen of a version that the server no longer has: the page is loaded anew, once. What was entered is on the device.
window.addEventListener("vite:preloadError", () => void loadAnew());

async function loadAnew(): Promise<void> {
  const last = Number(sessionStorage.getItem("dorrik.anew") ?? 0);
  if (Date.now() - last < 60_000) return;
  if (!(await canLoadAnew())) return;
  sessionStorage.setItem("dorrik.anew", String(Date.now()));
  window.location.reload();
}

/** A device that keeps the application has one version of it whole, as where another window took a newer one. Else a
 * server that is only away has no newer version: the page that is here is all there is. */
async function canLoadAnew(): Promise<boolean> {
  if (navigator.serviceWorker?.controller) return true;
  return fetch("/", { method: "HEAD", cache: "no-store" }).then(
    ({ ok }) => ok,
    () => false,
  );
}
