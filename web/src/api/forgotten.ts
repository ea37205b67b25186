/** Whether everything that could be looked at was forgotten on this device since some moment: what was asked for before,
 * or waits to be kept, is then not kept any more. */
let times = 0;

export function forget(): void {
  times++;
}

/** Asked now; says later whether nothing was forgotten in between. */
export function sinceForgotten(): () => boolean {
  const then = times;
  return () => then === times;
}
