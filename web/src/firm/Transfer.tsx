/** Taking the firm's work along, and taking work in: open formats, nothing locked in. */
import { Box, Flex, Text } from "@chakra-ui/react";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { ofThisPage, Refused, type Schemas } from "../api/client";
import { explainField } from "../api/errors";
import { LinkButton } from "../ui/Button";
import { FileDrop } from "../ui/FileDrop";
import { Link } from "../ui/Link";
import { Section } from "../ui/Page";
import { Progress, Told } from "../ui/States";

type TakenIn = Schemas["TakenInOut"];

async function takeIn(file: File): Promise<TakenIn> {
  const response = await fetch("/api/import", { method: "POST", body: file, headers: ofThisPage() });
  const body = (await response.json()) as TakenIn & Schemas["Problem"];
  if (!response.ok) throw new Refused(response.status, body.message, body);
  return body;
}

const FILES = { "application/zip": [".zip"], "application/json": [".json"] };

export function Transfer({ mayExport, mayImport }: { mayExport: boolean; mayImport: boolean }) {
  const queries = useQueryClient();
  const taken = useMutation({ mutationFn: takeIn, onSuccess: () => void queries.invalidateQueries() });
  return (
    <Section title="Export and import" lead="Open formats (JSON, CSV, XLSX, ICS, PDF) in one archive.">
      <Flex gap="2" wrap="wrap" mb="4">
        {mayExport && (
          <LinkButton file to="/api/firm/export.zip">
            Export everything (ZIP)
          </LinkButton>
        )}
        <LinkButton file to="/api/calendar.ics">
          Export calendar (ICS)
        </LinkButton>
      </Flex>
      {mayImport && (
        <FileDrop
          label="Archive to import"
          title="Import an archive"
          line="of one inspection or of a firm (ZIP), or an inspection (JSON)"
          accept={FILES}
          take={([file]) => file && taken.mutate(file)}
        />
      )}
      {taken.isPending && <Progress label="Importing …" />}
      {taken.isError && <Told trouble>{explainField(taken.error, "file")}</Told>}
      {taken.data && (
        <Told>
          <b>
            {taken.data.inspections.length} {taken.data.inspections.length === 1 ? "inspection" : "inspections"},{" "}
            {taken.data.entries} entries of the register, {taken.data.photos} photos.
          </b>
          <Flex gap="3" wrap="wrap">
            {taken.data.inspections.slice(0, 20).map((inspection) => (
              <Link key={inspection.id} to={`/inspection/${inspection.id}/brief`}>
                {inspection.reference || "inspection"}
              </Link>
            ))}
          </Flex>
          {taken.data.told.length > 0 && (
            <Box as="ul" listStyleType="disc" ml="5" mt="2">
              {taken.data.told.map((one) => (
                <li key={one}>{one}</li>
              ))}
            </Box>
          )}
          {taken.data.told.length > 0 && <Text>Everything else was imported as it is in the file.</Text>}
        </Told>
      )}
    </Section>
  );
}
