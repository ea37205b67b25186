/** A photo with its marks laid over it: arrows, rings, numbers, and what is made unreadable. */
import { Box, Image } from "@chakra-ui/react";
import { useEffect, useState } from "react";
import { MARKED } from "../api/declared.gen";
import type { Entity } from "../inspection/types";
import { marksOf, numberOf, type PhotoMark } from "./marks";
import css from "./MarkedPhoto.module.css";
import { fromBag, source } from "./photos";

interface Props {
  photo: Entity;
  inspection: string;
  alt: string;
  size?: "small" | "medium" | "large";
}

const SHAPES = {
  small: { width: "16", height: "12", objectFit: "cover" },
  medium: { width: "13rem", maxHeight: "11rem", objectFit: "contain" },
  large: { maxWidth: "100%", maxHeight: "70dvh" },
} as const;

export function MarkedPhoto({ photo, inspection, alt, size = "large" }: Props) {
  const small = size === "small";
  const sha256 = String(photo.values.sha256 ?? "");
  const [src, setSrc] = useState<string>();
  const [shape, setShape] = useState(0.75);
  /** The source that this browser could not show. */
  const [unseen, setUnseen] = useState<string>();
  useEffect(() => {
    let made: string | undefined;
    void source(inspection, sha256, small ? "small" : "large").then((address) => {
      made = address;
      setSrc(address);
    });
    return () => {
      if (made?.startsWith("blob:")) URL.revokeObjectURL(made);
    };
  }, [inspection, sha256, small]);
  if (!src) return null;
  if (unseen === src) {
    return (
      <Box
        className={css.unseen}
        width={small ? "16" : "full"}
        height={small ? "12" : "40"}
        role="img"
        aria-label={alt}
      >
        {small ? "photo" : "This browser cannot show it yet; the server can, once it has it."}
      </Box>
    );
  }
  const marks = marksOf(photo);
  return (
    <span className={css.frame} data-small={small || undefined}>
      <Image
        src={src}
        alt={alt}
        loading="lazy"
        display="block"
        borderRadius="md"
        draggable={false}
        onLoad={(event) => setShape(event.currentTarget.naturalHeight / event.currentTarget.naturalWidth || 0.75)}
        onError={() =>
          void (src.startsWith("blob:") ? Promise.resolve(undefined) : fromBag(inspection, sha256)).then((kept) =>
            kept ? setSrc(kept) : setUnseen(src),
          )
        }
        {...SHAPES[size]}
      />
      {!small && <Marks marks={marks} shape={shape} />}
      {small && marks.length > 0 && <span className={css.marked}>{marks.length}</span>}
    </span>
  );
}

/** Marks over a photo of that shape (height by width). */
export function Marks({ marks, shape, chosen }: { marks: readonly PhotoMark[]; shape: number; chosen?: number }) {
  // Thousandths of the longer side.
  const [width, height] = shape > 1 ? [1000 / shape, 1000] : [1000, 1000 * shape];
  return (
    <>
      {marks.map(
        (photoMark, at) =>
          photoMark.kind === "blur" && (
            <span
              key={at}
              className={css.blur}
              data-chosen={at === chosen || undefined}
              style={{
                left: `${Math.min(photoMark.x, photoMark.x2) * 100}%`,
                top: `${Math.min(photoMark.y, photoMark.y2) * 100}%`,
                width: `${Math.abs(photoMark.x2 - photoMark.x) * 100}%`,
                height: `${Math.abs(photoMark.y2 - photoMark.y) * 100}%`,
              }}
            />
          ),
      )}
      <svg className={css.marks} viewBox={`0 0 ${width} ${height}`} aria-hidden="true">
        {marks.map((photoMark, at) => (
          <g key={at} data-chosen={at === chosen || undefined}>
            {shapeOf(photoMark, numberOf(marks, at), width, height)}
          </g>
        ))}
      </svg>
    </>
  );
}

function shapeOf(mark: PhotoMark, number: number, width: number, height: number) {
  const [x, y, x2, y2] = [mark.x * width, mark.y * height, mark.x2 * width, mark.y2 * height];
  if (mark.kind === "blur") return null;
  if (mark.kind === "number") {
    return (
      <>
        <circle cx={x} cy={y} r={MARKED.disc} strokeWidth={MARKED.rim} className={css.disc} />
        <text x={x} y={y + MARKED.number_down} fontSize={MARKED.number} textAnchor="middle">
          {number}
        </text>
      </>
    );
  }
  const line =
    mark.kind === "ring"
      ? { shape: <ellipse cx={(x + x2) / 2} cy={(y + y2) / 2} rx={Math.abs(x2 - x) / 2} ry={Math.abs(y2 - y) / 2} /> }
      : { shape: <path d={arrow(x, y, x2, y2)} /> };
  return (
    <>
      <g className={css.under} strokeWidth={MARKED.under}>
        {line.shape}
      </g>
      <g className={css.over} strokeWidth={MARKED.over}>
        {line.shape}
      </g>
    </>
  );
}

function arrow(x: number, y: number, x2: number, y2: number): string {
  const angle = Math.atan2(y2 - y, x2 - x);
  const wing = (turn: number) =>
    `${x2 - MARKED.head * Math.cos(angle + turn)} ${y2 - MARKED.head * Math.sin(angle + turn)}`;
  return `M${x} ${y} L${x2} ${y2} M${wing(MARKED.head_angle)} L${x2} ${y2} L${wing(-MARKED.head_angle)}`;
}
