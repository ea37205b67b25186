/** Makes Python with room for a memory that is taken over: by itself it begins with 30 MB, and does not take in more than
 * it has. Lies beside it on a device. */
export async function withRoomFor(bytes) {
  const { default: create } = await import("./pyodide.asm.mjs");
  return async (settings) => {
    const python = await create(settings);
    // What is asked for lies behind all that is there; the memory that is taken over knows nothing of it.
    const missing = bytes - python._sbrk(0);
    if (missing > 0) python._malloc(missing);
    return python;
  };
}
