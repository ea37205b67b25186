/** Devices of the firm's people: when each was heard of, what waits there, and ending one that is lost. */
import { Box, Flex, Text } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, answer, type Schemas } from "../api/client";
import { explain } from "../api/errors";
import { Button } from "../ui/Button";
import { Dialog } from "../ui/Dialog";
import { Line, Lines } from "../ui/Page";
import { Progress, Told } from "../ui/States";
import { moment } from "../ui/when";

type Device = Schemas["WorkDeviceOut"];

const QUERY = ["devices"];
const waitsThere = (n: number) => (n === 1 ? "1 thing waits there" : `${n} things wait there`);

export function Devices() {
  const devices = useQuery({ queryKey: QUERY, queryFn: () => answer(api.GET("/api/devices/of-the-firm")) });
  const [ending, setEnding] = useState<Device | null>(null);
  const [looking, setLooking] = useState<Device | null>(null);
  if (devices.isPending) return <Progress label="Asking for the devices …" />;
  if (devices.isError) return <Told trouble>{explain(devices.error)}</Told>;
  if (!devices.data.length) return <Text color="quiet">Nobody’s device has been heard of yet.</Text>;
  return (
    <>
      <Lines label="Devices">
        {devices.data.map((device) => (
          <Line key={device.id + device.person_id}>
            <Box flex="1 1 16rem" minW="0">
              <Text fontWeight="600">
                {device.person} · {device.name}
              </Text>
              <Text color="quiet" fontSize="sm">
                {device.ended_at ? `ended ${moment(device.ended_at)}` : `last heard of ${moment(device.heard_at)}`}
              </Text>
            </Box>
            {device.waiting > 0 && (
              <Button
                variant="quiet"
                label={`${waitsThere(device.waiting)}: ${device.person}, ${device.name}`}
                onClick={() => setLooking(device)}
              >
                {device.ended_at ? `${device.waiting} not arrived` : waitsThere(device.waiting)}
              </Button>
            )}
            {!device.ended_at && (
              <Button label={`End the device of ${device.person}: ${device.name}`} onClick={() => setEnding(device)}>
                End …
              </Button>
            )}
          </Line>
        ))}
      </Lines>
      {ending && <End device={ending} close={() => setEnding(null)} />}
      {looking && <Fates device={looking} close={() => setLooking(null)} />}
    </>
  );
}

function End({ device, close }: { device: Device; close: () => void }) {
  const queries = useQueryClient();
  const [trouble, setTrouble] = useState("");
  const end = async () => {
    try {
      const path = { device_id: device.id, person_id: device.person_id };
      await answer(api.POST("/api/devices/{device_id}/of/{person_id}/end", { params: { path } }));
      await queries.invalidateQueries({ queryKey: QUERY });
      close();
    } catch (error) {
      setTrouble(explain(error));
    }
  };
  return (
    <Dialog title="End a lost device" close={close} width="32rem">
      <Text mb="3">
        <b>
          {device.person}, {device.name}.
        </b>{" "}
        It is signed out at once, forgets what it can show as soon as it is in touch, and what it hands over is not
        taken any more.
      </Text>
      <Text mb="4">
        {device.waiting
          ? `${waitsThere(device.waiting)} and had not arrived when it was last heard of, ${moment(device.heard_at)}.`
          : `Everything had arrived when it was last heard of, ${moment(device.heard_at)}.`}{" "}
        What was entered on it afterwards is known to nobody until it is found.
      </Text>
      {trouble && <Told trouble>{trouble}</Told>}
      <Flex gap="3" wrap="wrap">
        <Button variant="action" onClick={() => void end()}>
          End this device
        </Button>
        <Button onClick={close}>Cancel</Button>
      </Flex>
    </Dialog>
  );
}

/** What waited there, entry by entry: arrived since, from there or through another device, or not. */
function Fates({ device, close }: { device: Device; close: () => void }) {
  const path = { device_id: device.id, person_id: device.person_id };
  const fates = useQuery({
    queryKey: [...QUERY, device.id, device.person_id],
    queryFn: () => answer(api.GET("/api/devices/{device_id}/of/{person_id}/waiting", { params: { path } })),
    staleTime: 0,
  });
  const lost = fates.data?.filter(({ fate }) => fate === "not arrived") ?? [];
  const arrived = (fates.data?.length ?? 0) - lost.length;
  return (
    <Dialog title={`${device.person}, ${device.name}`} close={close} width="36rem">
      {fates.isPending && <Progress label="Asking what has arrived …" />}
      {fates.isError && <Told trouble>{explain(fates.error)}</Told>}
      {fates.data && (
        <>
          <Text mb="3">
            As it said {moment(device.heard_at)}: <b>{lost.length} not arrived</b>, {arrived} arrived since.
          </Text>
          <Lines label="Not arrived">
            {lost.map((one, at) => (
              <Line key={at}>
                <Box flex="1 1 12rem">
                  <b>{one.what}</b>
                </Box>
                <Box flex="1 1 10rem">{one.inspection}</Box>
                <Box color="quiet">{one.made_at ? moment(one.made_at) : ""}</Box>
              </Line>
            ))}
          </Lines>
        </>
      )}
    </Dialog>
  );
}
