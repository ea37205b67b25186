/** The confirmation that everything is put right: signed, frozen, to download. */
import { Box, Flex, Text } from "@chakra-ui/react";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, answer, type Me } from "../api/client";
import { explain, fieldErrors } from "../api/errors";
import { type Signature, SignatureField } from "../report/SignatureField";
import { Button, LinkButton } from "../ui/Button";
import { Told } from "../ui/States";
import { moment } from "../ui/when";
import type { After } from "./steps";

export function Confirmation({ me, after, changed }: { me: Me; after: After; changed: () => void }) {
  const [signature, setSignature] = useState<Signature | null>(null);
  const params = { path: { inspection_id: after.inspection_id } };
  const confirm = useMutation({
    mutationFn: (signed: Signature) =>
      answer(api.POST("/api/inspections/{inspection_id}/after/confirmation", { params, body: { signature: signed } })),
    onSuccess: changed,
  });
  if (after.confirmed)
    return (
      <Flex
        as="section"
        aria-label="Confirmation"
        bg="half"
        borderRadius="lg"
        p="4"
        mb="5"
        gap="4"
        align="center"
        wrap="wrap"
      >
        <Box flex="1 1 16rem">
          <Box as="b" fontSize="xl">
            Put right.
          </Box>{" "}
          Confirmed by {after.confirmed.issued_by}, {moment(after.confirmed.issued_at)}. The report is closed without a
          new inspection.
        </Box>
        <LinkButton file to={`/api/reports/${after.confirmed.id}.pdf`}>
          Download confirmation
        </LinkButton>
      </Flex>
    );
  if (!after.complete) return null;
  const refused = fieldErrors(confirm.error);
  return (
    <Box as="section" aria-label="Confirmation" borderWidth="2px" borderColor="sea" borderRadius="lg" p="4" mb="5">
      <Text fontWeight="bold" fontSize="lg" mb="2">
        Everything is cleared. Confirm it in writing: that closes the report.
      </Text>
      {after.may_decide ? (
        <>
          <SignatureField name={me.name} change={setSignature} refused={refused["signature.typed"]} />
          <Box mt="3">
            <Button
              variant="action"
              disabled={!signature}
              busy={confirm.isPending}
              onClick={() => signature && confirm.mutate(signature)}
            >
              Sign and confirm
            </Button>
          </Box>
        </>
      ) : (
        <Text color="quiet">An inspector or a supervisor confirms it.</Text>
      )}
      {confirm.isError && Object.keys(refused).length === 0 && <Told trouble>{explain(confirm.error)}</Told>}
    </Box>
  );
}
