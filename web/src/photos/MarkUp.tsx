/** Drawing on a photo: a mark is dragged from where it begins to where it ends; the photo under it is not touched. */
import { Box, Flex, Text } from "@chakra-ui/react";
import { type KeyboardEvent, type PointerEvent, useRef, useState } from "react";
import { setField, useInspection } from "../inspection/open";
import { Button } from "../ui/Button";
import { Dialog } from "../ui/Dialog";
import { Segments } from "../ui/Segments";
import { MarkedPhoto, Marks } from "./MarkedPhoto";
import css from "./MarkedPhoto.module.css";
import { inside, MARK_KINDS, type MarkKind, marksOf, moved, type PhotoMark } from "./marks";

const WORDS: Record<MarkKind, string> = { arrow: "arrow", ring: "ring", number: "number", blur: "make unreadable" };
/** A drag shorter than this part of the photo was a tap. */
const TAP = 0.02;
const STEP = 0.02;

export function MarkUp({ id, inspection, close }: { id: string; inspection: string; close: () => void }) {
  const photo = useInspection((s) => s.model?.entities[id]);
  const [tool, setTool] = useState<MarkKind>("arrow");
  const [drawing, setDrawing] = useState<PhotoMark | null>(null);
  const [chosen, setChosen] = useState<number | null>(null);
  const [shape, setShape] = useState(0.75);
  const sheet = useRef<HTMLDivElement>(null);
  if (!photo) return null;
  const marks = marksOf(photo);
  const keep = (next: readonly PhotoMark[]) =>
    setField({ kind: "photo", id, field: "marks" }, next.length ? (next as never) : null);
  const add = (mark: PhotoMark) => {
    keep([...marks, inside(mark)]);
    setChosen(marks.length);
  };
  const at = (event: PointerEvent) => {
    const box = sheet.current?.querySelector("img")?.getBoundingClientRect();
    if (!box) return { x: 0, y: 0 };
    return { x: (event.clientX - box.left) / box.width, y: (event.clientY - box.top) / box.height };
  };
  const begin = (event: PointerEvent) => {
    event.currentTarget.setPointerCapture(event.pointerId);
    const { x, y } = at(event);
    const image = sheet.current?.querySelector("img");
    if (image) setShape(image.clientHeight / image.clientWidth);
    setDrawing({ kind: tool, x, y, x2: x, y2: y });
  };
  const draw = (event: PointerEvent) => {
    if (!drawing) return;
    const { x, y } = at(event);
    setDrawing({ ...drawing, x2: x, y2: y });
  };
  const end = () => {
    if (!drawing) return;
    const { x, y, x2, y2 } = drawing;
    const tap = Math.hypot(x2 - x, y2 - y) < TAP;
    if (tool === "number") add({ ...drawing, x2: x, y2: y });
    else if (tap) add(around(tool, x, y));
    else add(drawing);
    setDrawing(null);
  };
  const keyed = (event: KeyboardEvent) => {
    const mark = chosen === null ? undefined : marks[chosen];
    const step: Record<string, [number, number]> = {
      ArrowLeft: [-STEP, 0],
      ArrowRight: [STEP, 0],
      ArrowUp: [0, -STEP],
      ArrowDown: [0, STEP],
    };
    const by = step[event.key];
    if (!mark || !by) return;
    event.preventDefault();
    keep(marks.map((photoMark, index) => (index === chosen ? moved(photoMark, ...by) : photoMark)));
  };
  return (
    <Dialog
      title="Mark the photo"
      close={close}
      width="56rem"
      footer={
        <>
          <Button disabled={marks.length === 0} onClick={() => keep(marks.slice(0, -1))}>
            Remove last mark
          </Button>
          <Box flex="1" />
          <Button variant="action" onClick={close}>
            Done
          </Button>
        </>
      }
    >
      <Flex gap="3" wrap="wrap" align="center" mb="3">
        <Segments
          label="What to draw"
          value={tool}
          choices={MARK_KINDS.map((kind) => [kind, WORDS[kind]] as const)}
          change={(kind) => setTool(kind as MarkKind)}
        />
        <Button size="sm" onClick={() => add(around(tool, 0.5, 0.5))}>
          in the middle
        </Button>
        <Text as="small" color="quiet" flex="1 1 12rem">
          Drag over the photo. Arrow keys move the mark drawn last. Faces and number plates: make them unreadable.
        </Text>
      </Flex>
      {/* What is drawn on takes the pointer and, to move a mark, the arrow keys. */}
      {/* eslint-disable jsx-a11y/no-noninteractive-element-interactions, jsx-a11y/no-noninteractive-tabindex */}
      <div
        ref={sheet}
        className={css.sheet}
        onPointerDown={begin}
        onPointerMove={draw}
        onPointerUp={end}
        onKeyDown={keyed}
        tabIndex={0}
        role="application"
        aria-label={`The photo, ${marks.length} marks; arrow keys move the last one`}
      >
        <Box position="relative" display="inline-block" maxW="full">
          <MarkedPhoto photo={photo} inspection={inspection} alt="The photo that is marked" />
          {drawing && (
            <Box position="absolute" inset="0" pointerEvents="none">
              <Marks marks={[inside(drawing)]} shape={shape} />
            </Box>
          )}
        </Box>
      </div>
      {/* eslint-enable jsx-a11y/no-noninteractive-element-interactions, jsx-a11y/no-noninteractive-tabindex */}
    </Dialog>
  );
}

/** A mark of a usual size round a place. */
function around(kind: MarkKind, x: number, y: number): PhotoMark {
  if (kind === "number") return { kind, x, y, x2: x, y2: y };
  if (kind === "arrow") return inside({ kind, x: x - 0.18, y: y - 0.18, x2: x, y2: y });
  return inside({ kind, x: x - 0.1, y: y - 0.1, x2: x + 0.1, y2: y + 0.1 });
}
