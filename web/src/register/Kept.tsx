/** What is kept of a client: told, taken along, and erased once its time is over. */
import { Flex, Text } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { api, answer, type Me } from "../api/client";
import { explain } from "../api/errors";
import { Button, LinkButton } from "../ui/Button";
import { Told } from "../ui/States";
import { Section } from "../ui/Page";
import { day, today } from "../ui/when";

const many = (count: number, one: string, several = `${one}s`) =>
  count > 0 && `${count} ${count === 1 ? one : several}`;

export function Kept({ id, me }: { id: string; me: Me }) {
  const navigate = useNavigate();
  const [asked, setAsked] = useState(false);
  const [trouble, setTrouble] = useState("");
  const may = me.may.includes("export data");
  const params = { path: { client_id: id } };
  const kept = useQuery({
    queryKey: ["kept", id],
    queryFn: () => answer(api.GET("/api/clients/{client_id}/kept", { params })),
    staleTime: 0,
    enabled: may,
  });
  if (!may || !kept.data) return null;
  const k = kept.data;
  const over = k.erasable_from === null || k.erasable_from <= today();
  const erase = async () => {
    try {
      await answer(api.POST("/api/clients/{client_id}/erase", { params }));
      navigate("/clients");
    } catch (error) {
      setTrouble(explain(error));
      setAsked(false);
    }
  };
  return (
    <Section title="Data held on this client">
      <Text mb="3" maxW="46rem">
        {[
          many(k.properties, "property", "properties"),
          many(k.jobs, "job"),
          many(k.inspections, "inspection"),
          many(k.reports, "issued report"),
          many(k.photos, "photo"),
        ]
          .filter(Boolean)
          .join(", ") || "The data above"}
        {k.last_work && `; last work on ${day(k.last_work)}`}.{" "}
        {over
          ? "The time for keeping is over."
          : `Kept until ${day(k.erasable_from)}${k.reports_until ? `, issued reports until ${day(k.reports_until)}` : ""}.`}
      </Text>
      {trouble && <Told trouble>{trouble}</Told>}
      <Flex gap="4" align="center" wrap="wrap">
        <LinkButton file variant="quiet" to={`/api/clients/${id}/export.zip`}>
          Export all data (ZIP)
        </LinkButton>
        {me.may.includes("erase data") &&
          (asked ? (
            <>
              <Button variant="action" onClick={erase}>
                Erase for good
              </Button>
              <Button onClick={() => setAsked(false)}>Cancel</Button>
            </>
          ) : (
            <Button onClick={() => setAsked(true)} disabled={!over}>
              Erase
            </Button>
          ))}
      </Flex>
    </Section>
  );
}
