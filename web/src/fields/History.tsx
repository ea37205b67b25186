/** Who changed one figure from what to what, and when; any of it can be put back. */
import { Box, Flex } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { api, answer, type Schemas } from "../api/client";
import { explain } from "../api/errors";
import { useReference } from "../api/reference";
import { shown } from "../inspection/model";
import { setField, useInspection } from "../inspection/open";
import { type Place, type Value, placeOf } from "../inspection/types";
import { Button } from "../ui/Button";
import { moment } from "../ui/when";

/** One field, or the whole entity where no field is named. */
export type About = Omit<Place, "field"> & { field?: string };

/** The instrument that showed it and when, and the trainee who read it, where that is known. */
function ReadWith({ entry }: { entry: Pick<Schemas["EntryOut"], "instrument_id" | "read_at" | "read_by"> }) {
  const values = useInspection((s) =>
    entry.instrument_id ? s.model?.entities[entry.instrument_id]?.values : undefined,
  );
  const trainee = useInspection((s) => (entry.read_by ? s.model?.entities[entry.read_by]?.values.who : undefined));
  const name = [values?.name, values?.serial].filter(Boolean).map(String).join(" ");
  return (
    <>
      {values && (
        <>
          <br />
          {entry.read_at ? `from ${name}, shown ${moment(entry.read_at)}` : `read off ${name}`}
        </>
      )}
      {entry.read_by && (
        <>
          <br />
          read by {String(trainee ?? "a trainee")}
        </>
      )}
    </>
  );
}

export function History({ place, close }: { place: About; close: () => void }) {
  const specs = useReference()?.fields[place.kind];
  const id = useInspection((s) => s.model?.id) ?? "";
  const seq = useInspection((s) => s.model?.seq);
  const history = useQuery({
    queryKey: ["history", id, place.id, place.field, seq],
    queryFn: () =>
      answer(
        api.GET("/api/inspections/{inspection_id}/history", {
          params: {
            path: { inspection_id: id },
            query: { entity_id: place.id, ...(place.field && { field: place.field }) },
          },
        }),
      ),
  });
  return (
    <Box fontSize="sm">
      {history.isPending && "Asking the server …"}
      {history.isError && explain(history.error)}
      {history.data?.length === 0 && "Nothing was written here yet."}
      <Box as="ol" listStyleType="none">
        {history.data?.map((entry) => {
          const spec = specs?.[entry.field];
          return (
            <Flex
              as="li"
              key={entry.id}
              justify="space-between"
              gap="3"
              py="1.5"
              borderTopWidth="1px"
              borderColor="line"
              _first={{ borderTopWidth: "0" }}
            >
              <span>
                {!place.field && `${spec?.label ?? "Made, or moved"}: `}
                <b>{spec ? shown(entry.value) : "here"}</b> before {spec ? shown(entry.before) : "elsewhere"}
                <br />
                {entry.author}, {moment(entry.made_at)}
                <ReadWith entry={entry} />
              </span>
              {spec && (
                <Button
                  variant="quiet"
                  size="sm"
                  onClick={() => {
                    setField(placeOf(place.kind, place.id, entry.field), (entry.before ?? null) as Value);
                    close();
                  }}
                >
                  put {shown(entry.before)} back
                </Button>
              )}
            </Flex>
          );
        })}
      </Box>
    </Box>
  );
}
