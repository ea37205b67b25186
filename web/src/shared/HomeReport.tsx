/** A home as its landlord reads it: the result, by when, what to do with pictures, and what follows by law. */
import { Box, Flex, Heading, Link as ChakraLink, Text } from "@chakra-ui/react";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Bar } from "../after/Cleared";
import { Duties } from "../after/Copies";
import { answer } from "../api/client";
import { explain } from "../api/errors";
import { CodeMark, Tick } from "../drawings/Mark";
import { Button } from "../ui/Button";
import { Fold } from "../ui/Fold";
import { Loading, Told, Trouble } from "../ui/States";
import { day, today } from "../ui/when";
import { download, shared, type Shared, type SharedItem, type SharedReport, tokenHere } from "./api";
import { DoneDialog } from "./DoneDialog";
import { GaveCopy } from "./GaveCopy";
import { Photo } from "./Photo";

export function HomeReport({ page, id }: { page: Shared; id: string }) {
  const queries = useQueryClient();
  const query = ["shared home", tokenHere(), id];
  const report = useQuery({
    queryKey: query,
    queryFn: () => answer(shared.GET("/api/shared/homes/{inspection_id}", { params: { path: { inspection_id: id } } })),
    staleTime: 0,
  });
  if (report.isPending) return <Loading what="the report" />;
  if (report.isError)
    return <Trouble message={explain(report.error, "Try again in a moment.")} again={() => report.refetch()} />;
  return <Report page={page} report={report.data} taken={(next) => queries.setQueryData(query, next)} />;
}

interface Props {
  page: Shared;
  report: SharedReport;
  taken: (report: SharedReport) => void;
}

function Report({ page, report, taken }: Props) {
  const [open, setOpen] = useState<"done" | "copy" | null>(null);
  const counting = report.items.filter((sharedItem) => sharedItem.counts);
  const parts: readonly (readonly [string, SharedItem[]])[] = [
    ["To be put right", counting.filter((sharedItem) => sharedItem.code !== "FI")],
    ["To be looked into", counting.filter((sharedItem) => sharedItem.code === "FI")],
  ];
  const advised = report.items.filter((sharedItem) => !sharedItem.counts);
  const left = counting.some((sharedItem) => sharedItem.state !== "cleared");
  return (
    <>
      <Text color="quiet">
        {report.firm} for {page.name}
      </Text>
      <Heading as="h1" fontSize="3xl" mb="4">
        {report.home}
      </Heading>
      <Result report={report} />
      <Actions report={report} left={left} done={() => setOpen("done")} />
      {parts.map(
        ([title, items]) =>
          items.length > 0 && (
            <Box as="section" key={title} aria-label={title} mb="6">
              <Heading as="h2" size="md" mb="1">
                {title}
              </Heading>
              {items.map((item) => (
                <ItemRow key={item.id} home={report.id} item={item} />
              ))}
            </Box>
          ),
      )}
      {counting.length === 0 && <Text mb="5">Nothing has to be put right.</Text>}
      {advised.length > 0 && (
        <Fold title={`Worth improving, not required (${advised.length})`}>
          {advised.map((item) => (
            <ItemRow key={item.id} home={report.id} item={item} />
          ))}
        </Fold>
      )}
      <Duties duties={report.duties} caution={report.caution} />
      {report.may_report && report.duties.length > 0 && (
        <Box mb="5">
          <CopiesGiven report={report} />
          <Button onClick={() => setOpen("copy")}>I gave a copy …</Button>
        </Box>
      )}
      <Fold title="What do C1, C2, C3 and FI mean?">
        {report.meaning.map((meaning) => (
          <Flex key={meaning.code} gap="3" py="1" align="baseline">
            <CodeMark code={meaning.code} /> {meaning.means}
          </Flex>
        ))}
      </Fold>
      <Fold title="What the result rests on">
        <Text mb="2">{report.rests_on}</Text>
        <Text>
          Inspected {day(report.inspected_on)}, issue {report.number} of {day(report.issued_on)}.{" "}
          {report.next_by && `Next inspection by ${report.next_by}.`}
        </Text>
      </Fold>
      <Text color="quiet" fontSize="sm">
        {report.reference} · {report.rule_book} · <ChakraLink href="/check">Is this paper genuine?</ChakraLink>
        {(page.firm_phone || page.firm_email) &&
          ` · Questions: ${[page.firm_phone, page.firm_email].filter(Boolean).join(", ")}`}
      </Text>
      {open === "done" && <DoneDialog report={report} taken={taken} close={() => setOpen(null)} />}
      {open === "copy" && <GaveCopy report={report} taken={taken} close={() => setOpen(null)} />}
    </>
  );
}

/** The result in a sentence, by when, and how far it is. */
function Result({ report }: { report: SharedReport }) {
  const bad = report.outcome === "unsatisfactory";
  const closed = report.confirmed_on !== null;
  const dark = bad && !closed;
  const late = report.due !== null && report.due < today();
  return (
    <Box
      as="section"
      aria-label="Result"
      bg={dark ? "ink" : "sheet"}
      color={dark ? "onInk" : "ink"}
      borderWidth="2px"
      borderColor="ink"
      borderRadius="lg"
      p="5"
      mb="4"
    >
      <Text as="span" fontSize="2xl" fontWeight="bold">
        {closed
          ? "Put right."
          : bad
            ? "Not satisfactory yet."
            : `${report.outcome[0]?.toUpperCase() ?? ""}${report.outcome.slice(1)}.`}
      </Text>{" "}
      <Text as="span" fontSize="lg">
        {closed
          ? `Everything that had to be done is cleared; confirmed on ${day(report.confirmed_on)}.`
          : report.sentence}
      </Text>
      {report.reason && !closed && <Text mt="2">{report.reason}</Text>}
      {dark && report.due && (
        <Text fontSize="lg" mt="2">
          {late ? "The law's last day was" : "By"} <b>{day(report.due)}</b>.
        </Text>
      )}
      {dark && report.counting > 0 && (
        <>
          <Bar done={report.cleared} of={report.counting} dark />
          <Text mt="1">
            {report.cleared} of {report.counting} done
          </Text>
        </>
      )}
    </Box>
  );
}

function Actions({ report, left, done }: { report: SharedReport; left: boolean; done: () => void }) {
  const base = `/api/shared/homes/${report.id}`;
  const take = useMutation({
    mutationFn: ([path, name]: [string, string]) => download(`${base}/${path}`, name),
  });
  const fetches = (path: string, name: string) => () => take.mutate([path, `${name}-${report.reference}.pdf`]);
  return (
    <Box mb="6">
      <Flex gap="2" wrap="wrap">
        {left && (
          <Button variant="action" onClick={fetches("price-request.pdf", "price-request")}>
            Sheet for prices (PDF)
          </Button>
        )}
        {report.confirmed_on && (
          <Button variant="action" onClick={fetches("confirmation.pdf", "confirmation")}>
            Confirmation (PDF)
          </Button>
        )}
        <Button onClick={fetches("report.pdf", "report")}>Report (PDF)</Button>
        {report.may_report && left && <Button onClick={done}>Report work done …</Button>}
      </Flex>
      {take.isError && <Told trouble>{explain(take.error, "Try again in a moment.")}</Told>}
    </Box>
  );
}

function ItemRow({ home, item }: { home: string; item: SharedItem }) {
  const cleared = item.state === "cleared";
  return (
    <Flex
      as="article"
      aria-label={item.title}
      gap="4"
      py="4"
      borderTopWidth="1px"
      borderColor="line"
      align="flex-start"
      wrap={{ base: "wrap", sm: "nowrap" }}
    >
      {item.photos[0] && <Photo home={home} sha256={item.photos[0]} words={item.text || item.title} />}
      <Box flex="1 1 12rem" minW="0">
        <Flex gap="2" align="baseline">
          <CodeMark code={item.code} />
          <Box as="h3" fontWeight="bold" fontSize="lg">
            {item.title}
          </Box>
        </Flex>
        {item.text !== item.title && <Text>{item.text}</Text>}
        <Text color="quiet">{[item.place, item.todo].filter(Boolean).join(" · ")}</Text>
        {item.steps.map((step, at) => (
          <Text key={at} fontSize="sm">
            {[step.retests, step.kind === "done" && `Put right by ${step.by}, ${day(step.on)}`, step.words]
              .filter(Boolean)
              .join(" · ")}
          </Text>
        ))}
      </Box>
      <Box fontWeight="bold" color={cleared ? "sea" : "ink"} whiteSpace="nowrap">
        {cleared && <Tick />} {item.said}
      </Box>
    </Flex>
  );
}

function CopiesGiven({ report }: { report: SharedReport }) {
  const given = report.copies.filter((sharedCopy) => sharedCopy.arrived);
  if (given.length === 0) return null;
  return (
    <Box as="ul" aria-label="Copies given" listStyleType="none" mb="3">
      {given.map((sharedCopy, at) => (
        <li key={at}>
          <Tick /> {sharedCopy.name}, {sharedCopy.role}: {sharedCopy.how}, {day(sharedCopy.at.slice(0, 10))}
        </li>
      ))}
    </Box>
  );
}
