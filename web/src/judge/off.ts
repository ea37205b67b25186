/** Whether this device has the rules switched off. */

/** Somebody switched the rules off on this device, as one that is short of memory. */
const OFF = "dorrik.rules.off";

export const areOff = (): boolean => localStorage.getItem(OFF) !== null;

export function switchOff(off: boolean): void {
  if (off) localStorage.setItem(OFF, "1");
  else localStorage.removeItem(OFF);
}
