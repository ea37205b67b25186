/** Codes of another device, read by the camera until all of what it shows is here. */
import { Box, Text } from "@chakra-ui/react";
import jsQR from "jsqr";
import { useEffect, useRef, useState } from "react";
import { Dialog } from "../ui/Dialog";
import { Told } from "../ui/States";
import { NotHandedOver, readBytes, type Received } from "./bundle";
import { Basin } from "./fountain";

/** The longer side of a picture that is looked at, pixels: enough for a code that fills half of it. */
const LOOKED_AT = 900;

export default function ReadCodes({ close, done }: { close: () => void; done: (received: Received) => void }) {
  const video = useRef<HTMLVideoElement>(null);
  const [share, setShare] = useState(0);
  const [codes, setCodes] = useState(0);
  const [trouble, setTrouble] = useState("");
  const finished = useRef(done);
  useEffect(() => {
    finished.current = done;
  });
  useEffect(() => {
    let stopped = false;
    let stream: MediaStream | undefined;
    const basin = new Basin();
    const canvas = document.createElement("canvas");
    const look = canvas.getContext("2d", { willReadFrequently: true });

    async function read(): Promise<void> {
      const here = video.current;
      if (stopped || !here || !look) return;
      const { videoWidth: width, videoHeight: height } = here;
      if (width) {
        const scale = Math.min(1, LOOKED_AT / Math.max(width, height));
        canvas.width = Math.round(width * scale);
        canvas.height = Math.round(height * scale);
        look.drawImage(here, 0, 0, canvas.width, canvas.height);
        const { data } = look.getImageData(0, 0, canvas.width, canvas.height);
        const code = jsQR(data, canvas.width, canvas.height, { inversionAttempts: "dontInvert" });
        const whole = code && basin.take(Uint8Array.from(code.binaryData));
        setShare(basin.share);
        setCodes(basin.read);
        if (whole) {
          stopped = true;
          return readBytes(whole).then(
            (received) => finished.current(received),
            (error: unknown) => setTrouble(error instanceof NotHandedOver ? error.message : "It could not be read."),
          );
        }
      }
      requestAnimationFrame(() => void read());
    }

    // The camera at the back, where there is one.
    const wanted = { video: { facingMode: "environment", width: { ideal: 1280 } } };
    void (navigator.mediaDevices?.getUserMedia(wanted) ?? Promise.reject(new Error("no camera")))
      .then(async (camera) => {
        stream = camera;
        if (stopped || !video.current) return stop();
        video.current.srcObject = camera;
        await video.current.play();
        return read();
      })
      .catch(() => setTrouble("The camera cannot be used here. Allow it for this page, or hand over a file."));
    const stop = () => {
      stopped = true;
      for (const track of stream?.getTracks() ?? []) track.stop();
    };
    return stop;
  }, []);
  return (
    <Dialog title="Read codes" close={close} width="36rem">
      {trouble ? (
        <Told trouble>{trouble}</Told>
      ) : (
        <>
          <Box bg="black" borderRadius="md" overflow="hidden">
            <video
              ref={video}
              muted
              playsInline
              style={{ width: "100%", display: "block" }}
              aria-label="What the camera sees"
            />
          </Box>
          <Text mt="3" fontSize="xl" fontWeight="700" role="status" fontVariantNumeric="tabular-nums">
            {codes ? `${Math.round(share * 100)} %` : "Hold the code of the other device before the camera."}
          </Text>
        </>
      )}
    </Dialog>
  );
}
