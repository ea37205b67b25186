/** Things that are dragged onto others: by mouse, by a finger that rests on them first, and by keyboard. */
import {
  closestCenter,
  DndContext,
  type DragEndEvent,
  KeyboardSensor,
  MouseSensor,
  pointerWithin,
  TouchSensor,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
} from "@dnd-kit/core";
import type { CSSProperties, ReactNode } from "react";
import { nextPlace } from "./nextPlace";

/** A finger rests so long before it drags (ms), so that a list can still be scrolled; a mouse moves so far (px). */
const REST = { delay: 220, tolerance: 8 };
const MOVED = { distance: 6 };
/** Enter and space still do what the thing does by itself. */
const KEYS = { start: ["KeyM"], end: ["KeyM", "Enter", "Space"], cancel: ["Escape"] };
const HOW = {
  draggable: "Press M to move it, arrow keys to choose where to, Enter to put it there, Escape to leave it.",
};

/** Where a thing was let go in its place: its left edge, of the place's width; null by keyboard, which has no finger. */
export interface LetGo {
  at: number | null;
}

interface Props {
  /** What a thing is called, and a place, for those who hear it. */
  called: (id: string) => string;
  drop: (thing: string, place: string, where: LetGo) => void;
  children: ReactNode;
}

export function Drag({ called, drop, children }: Props) {
  const sensors = useSensors(
    useSensor(MouseSensor, { activationConstraint: MOVED }),
    useSensor(TouchSensor, { activationConstraint: REST }),
    useSensor(KeyboardSensor, { coordinateGetter: nextPlace, keyboardCodes: KEYS }),
  );
  const over = (event: Pick<DragEndEvent, "over">) => (event.over ? called(String(event.over.id)) : "nothing");
  return (
    <DndContext
      sensors={sensors}
      // What is under the finger; by keyboard, where there is none, what is nearest.
      collisionDetection={(given) => (given.pointerCoordinates ? pointerWithin(given) : closestCenter(given))}
      onDragEnd={(event) => event.over && drop(String(event.active.id), String(event.over.id), letGo(event))}
      accessibility={{
        screenReaderInstructions: HOW,
        announcements: {
          onDragStart: ({ active }) => `${called(String(active.id))} is being moved.`,
          onDragOver: (event) => `Over ${over(event)}.`,
          onDragEnd: (event) =>
            event.over ? `Put on ${over(event)}.` : `${called(String(event.active.id))} stays where it was.`,
          onDragCancel: ({ active }) => `${called(String(active.id))} stays where it was.`,
        },
      }}
    >
      {children}
    </DndContext>
  );
}

function letGo({ active, over, activatorEvent }: DragEndEvent): LetGo {
  const [thing, place] = [active.rect.current.translated, over?.rect];
  if (!thing || !place || activatorEvent instanceof KeyboardEvent) return { at: null };
  return { at: (thing.left - place.left) / place.width };
}

/** What a thing needs to be dragged: spread over the element that has the focus. */
export function useDragged(id: string, disabled = false) {
  const { setNodeRef, listeners, attributes, transform, isDragging } = useDraggable({ id, disabled });
  const style: CSSProperties | undefined = transform
    ? { transform: `translate3d(${transform.x}px, ${transform.y}px, 0)`, zIndex: 5, position: "relative" }
    : undefined;
  if (disabled) return { ref: setNodeRef, style };
  return {
    ref: setNodeRef,
    style: { ...style, touchAction: "manipulation" } as CSSProperties,
    "aria-describedby": attributes["aria-describedby"],
    "data-dragged": isDragging || undefined,
    ...listeners,
  };
}

/** A place onto which things are dragged. */
export function useDropPlace(id: string, disabled = false) {
  const { setNodeRef, isOver } = useDroppable({ id, disabled });
  return { ref: setNodeRef, isOver };
}
