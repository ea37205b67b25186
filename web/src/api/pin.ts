/** Whether this device asks for a PIN, or was wiped: known before anything is loaded. */
export const ASKS = "dorrik.pin";

/** When this device was wiped: said at the next sign-in. */
export const WIPED = "dorrik.wiped";

export const asksForPin = (): boolean => localStorage.getItem(ASKS) !== null;
