/** What stands in the way of issuing, the way to it, and every issue with its fingerprint. */
import { Box, Flex, Link as ChakraLink } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { api, answer, type Me } from "../api/client";
import { ComeBackReminder } from "../comeback/Reminder";
import { Mark } from "../drawings/Mark";
import { useInspection } from "../inspection/open";
import { LinkButton } from "../ui/Button";
import { Link } from "../ui/Link";
import { Line, Lines, Section } from "../ui/Page";
import { Tag } from "../ui/Tag";
import { moment } from "../ui/when";
import { Review } from "./Review";

interface Point {
  level: "must" | "look";
  stage: string;
  text: string;
}

interface Props {
  me: Me;
  /** What was looked at in the draft. */
  seq: number;
  /** What stands in the way, or is to be looked at before. */
  points: Point[];
  waiting: boolean;
  /** Without a server: this device has made the draft, and knows what stands in the way. */
  drafted: boolean;
}

export function Issue({ me, seq, points, waiting, drafted }: Props) {
  const id = useInspection((s) => s.model?.id) ?? "";
  const params = { path: { inspection_id: id } };
  const issues = useQuery({
    queryKey: ["issues", id],
    queryFn: () => answer(api.GET("/api/inspections/{inspection_id}/reports", { params })),
  });
  const must = points.filter((p) => p.level === "must");
  const look = points.filter((p) => p.level === "look");
  const known = issues.data ?? [];
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
          {points.length === 0 && <li>Nothing prevents issuing.</li>}
        </Box>
      </Section>
      <Review
        me={me}
        seq={seq}
        hindered={must.length > 0 || waiting}
        hinderedHere={must.length > 0 || !drafted}
        issued={known.length}
        unchanged={known.length > 0 && known.at(-1)?.seq === seq}
      />
      {known.length > 0 && (
        <Section
          title="Issued"
          tools={
            <LinkButton variant="action" to={`/to-put-right/${id}`}>
              What follows
            </LinkButton>
          }
        >
          <Lines label="Issues">
            {known.map((one) => (
              <Line key={one.id}>
                <Box flex="1 1 18rem" minW="0">
                  <b>Issue {one.number}</b>, {one.outcome}, {moment(one.issued_at)}, authorised by {one.issued_by}
                  {one.number < (known.at(-1)?.number ?? 0) && (
                    <>
                      {" "}
                      <Tag>replaced by issue {known.find((other) => other.replaces === one.number)?.number}</Tag>
                    </>
                  )}
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
      <TakeAlong id={id} />
    </>
  );
}

/** The inspection in open formats, for other programs and other firms. */
function TakeAlong({ id }: { id: string }) {
  const files = [
    ["inspection.zip", "Everything (ZIP)"],
    ["document.json", "Inspection (JSON)"],
    ["circuits.xlsx", "Circuits (XLSX)"],
    ["circuits.csv", "Circuits (CSV)"],
  ] as const;
  return (
    <Section title="Export" lead="Open formats: each can be imported again.">
      <Flex gap="2" wrap="wrap">
        {files.map(([file, name]) => (
          <LinkButton key={file} file size="sm" to={`/api/inspections/${id}/${file}`}>
            {name}
          </LinkButton>
        ))}
      </Flex>
    </Section>
  );
}
