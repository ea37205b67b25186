/** A newer version of the application waits on this device: said, and taken by a tap. */
import { takeUpdate, useUpdate } from "../api/application";
import { Banner } from "./Banner";
import { Button } from "./Button";

export function NewVersion({ edge }: { edge?: boolean }) {
  const ready = useUpdate((s) => s.ready);
  if (!ready) return null;
  return (
    <Banner
      role="status"
      edge={edge}
      acts={
        <Button size="sm" onClick={takeUpdate}>
          Use it now
        </Button>
      }
    >
      <b>A new version of Dorrik is on this device.</b> It begins when you close this one, or now. Nothing that waits to
      be sent is lost.
    </Banner>
  );
}
