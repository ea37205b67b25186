import type { KeyboardCoordinateGetter } from "@dnd-kit/core";

const STEPS: Record<string, readonly [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/** Where a thing goes that is moved by keyboard: onto the nearest place in the direction of the arrow. */
export const nextPlace: KeyboardCoordinateGetter = (event, { context, currentCoordinates }) => {
  const step = STEPS[event.code];
  const { collisionRect, droppableRects, droppableContainers } = context;
  if (!step || !collisionRect) return undefined;
  event.preventDefault();
  const [right, down] = step;
  const from = { x: collisionRect.left + collisionRect.width / 2, y: collisionRect.top + collisionRect.height / 2 };
  let nearest: { x: number; y: number; far: number } | undefined;
  for (const { id } of droppableContainers.getEnabled()) {
    const place = droppableRects.get(id);
    if (!place) continue;
    const x = place.left + place.width / 2 - from.x;
    const y = place.top + place.height / 2 - from.y;
    const ahead = x * right + y * down;
    if (ahead < 4) continue;
    // Straight ahead comes before aside.
    const far = ahead + 2 * Math.abs(x * down + y * right);
    if (!nearest || far < nearest.far) nearest = { x, y, far };
  }
  return nearest && { x: currentCoordinates.x + nearest.x, y: currentCoordinates.y + nearest.y };
};
