/** Issuing: what stands in the way, signing, and every issue with its fingerprint. */
import { Box, Flex, Link as ChakraLink } from "@chakra-ui/react";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, answer } from "../api/client";
import { ComeBackReminder } from "../comeback/Reminder";
import { explain } from "../api/errors";
import { Mark } from "../drawings/Mark";
import { useInspection, useMay } from "../inspection/open";
import { Button, LinkButton } from "../ui/Button";
import { Line, Lines, Section } from "../ui/Page";
import { Told } from "../ui/States";
import { TextField } from "../ui/TextField";
import { moment } from "../ui/when";

interface Point {
  level: "must" | "look";
  stage: string;
  text: string;
}

/** seq: what was looked at in the draft; points: what stands in the way or is to be looked at before. */
export function Issue({ seq, points, waiting }: { seq: number; points: Point[]; waiting: boolean }) {
  const queries = useQueryClient();
  const id = useInspection((s) => s.model?.id) ?? "";
  const [reason, setReason] = useState("");
  const [asked, setAsked] = useState(false);
  const signs = useMay("issue");
  const params = { path: { inspection_id: id } };
  const issues = useQuery({
    queryKey: ["issues", id],
    queryFn: () => answer(api.GET("/api/inspections/{inspection_id}/reports", { params })),
  });
  const issue = useMutation({
    mutationFn: () => {
      const body = { seen_seq: seq, reason: reason || null };
      return answer(api.POST("/api/inspections/{inspection_id}/reports", { params, body }));
    },
    onSuccess: () => {
      setAsked(false);
      setReason("");
      void queries.invalidateQueries({ queryKey: ["issues", id] });
    },
  });
  const must = points.filter((p) => p.level === "must");
  const look = points.filter((p) => p.level === "look");
  const known = issues.data ?? [];
  const next = known.length + 1;
  const unchanged = known.length > 0 && known.at(-1)?.seq === seq;
  return (
    <>
      <Section title="Before issuing">
        <ComeBackReminder before="before issuing" />
        <Box as="ul" listStyleType="none" mb="3.5">
          {[...must, ...look].map((p) => (
            <Box as="li" key={p.text} py="1">
              <Mark status={p.level === "must" ? "fail" : "attention"} size={14} />{" "}
              <ChakraLink asChild>
                <Link to={`/inspection/${id}/${p.stage}`}>{p.text}</Link>
              </ChakraLink>
            </Box>
          ))}
          {points.length === 0 && <li>Nothing stands in the way.</li>}
        </Box>
        {known.length > 0 && !unchanged && (
          <Box mb="3">
            <TextField label={`What issue ${next} corrects`} value={reason} change={setReason} maxLength={500} />
          </Box>
        )}
        <Flex wrap="wrap" gap="3" align="center">
          {!signs ? (
            <p>An inspector or a supervisor signs and issues, while the inspection is not on hold.</p>
          ) : unchanged ? (
            <p>Issue {known.length} says what stands here. A correction is issued after something has changed.</p>
          ) : asked ? (
            <>
              <p>
                <b>Issue {next} cannot be changed afterwards.</b> You sign it as the competent person.
              </p>
              <Button variant="action" onClick={() => issue.mutate()} disabled={issue.isPending}>
                Sign and issue
              </Button>
              <Button onClick={() => setAsked(false)}>Not yet</Button>
            </>
          ) : (
            <Button
              variant="action"
              disabled={must.length > 0 || waiting || !seq || (known.length > 0 && !reason.trim())}
              onClick={() => setAsked(true)}
            >
              {known.length ? `Issue correction ${next}` : "Issue the report"}
            </Button>
          )}
        </Flex>
        {issue.isError && <Told trouble>{explain(issue.error)}</Told>}
      </Section>
      {known.length > 0 && (
        <Section title="Issued">
          <Lines label="Issues">
            {known.map((one) => (
              <Line key={one.id}>
                <Box flex="1 1 18rem" minW="0">
                  <b>Issue {one.number}</b>, {one.outcome}, {moment(one.issued_at)}, signed by {one.issued_by}
                  {one.replaces && (
                    <p>
                      Replaces issue {one.replaces}: {one.reason}
                    </p>
                  )}
                  <Box as="code" display="block" fontFamily="mono" fontSize="xs" color="quiet" overflowWrap="anywhere">
                    SHA-256 {one.sha256}
                  </Box>
                </Box>
                <LinkButton file to={`/api/reports/${one.id}.pdf`}>
                  Download
                </LinkButton>
              </Line>
            ))}
          </Lines>
        </Section>
      )}
    </>
  );
}
