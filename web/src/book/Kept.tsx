/** What is kept of a client: told, taken along, and erased once its time is over. */
import { Flex, Link, Text } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { api, answer, type Me } from "../api/client";
import { wordsOf } from "../api/words";
import { Do } from "../ui/Do";
import { Told } from "../ui/Told";
import { shownDay } from "./entry";

const many = (count: number, one: string, several = `${one}s`) => count > 0 && `${count} ${count === 1 ? one : several}`;

export function Kept({ id, me }: { id: string; me: Me }) {
  const navigate = useNavigate();
  const [asked, setAsked] = useState(false);
  const [trouble, setTrouble] = useState("");
  const may = me.may.includes("export data");
  const params = { path: { client_id: id } };
  const kept = useQuery({ queryKey: ["kept", id], queryFn: () => answer(api.GET("/api/clients/{client_id}/kept", { params })), staleTime: 0, enabled: may });
  if (!may || !kept.data) return null;
  const k = kept.data;
  const over = k.erasable_from === null || k.erasable_from <= new Date().toISOString().slice(0, 10);
  const erase = async () => {
    try {
      await answer(api.POST("/api/clients/{client_id}/erase", { params }));
      navigate("/clients");
    } catch (error) {
      setTrouble(wordsOf(error));
      setAsked(false);
    }
  };
  return (
    <section>
      <h2>What is kept of this client</h2>
      <Text mb="3" maxW="46rem">
        {[many(k.properties, "property", "properties"), many(k.jobs, "job"), many(k.inspections, "inspection"), many(k.reports, "issued report"), many(k.photos, "photo")].filter(Boolean).join(", ") || "What stands above"}
        {k.last_work && `; last work on ${shownDay(k.last_work)}`}.{" "}
        {over ? "The time for keeping is over." : `Kept until ${shownDay(k.erasable_from)}${k.reports_until ? `, issued reports until ${shownDay(k.reports_until)}` : ""}.`}
      </Text>
      {trouble && <Told trouble>{trouble}</Told>}
      <Flex gap="4" align="center" wrap="wrap">
        <Link href={`/api/clients/${id}/export.zip`} download textDecoration="underline" fontWeight="700" minH="44px" display="inline-grid" placeItems="center">
          Take everything along (ZIP)
        </Link>
        {me.may.includes("erase data") &&
          (asked ? (
            <>
              <Do first onClick={erase}>
                Erase for good
              </Do>
              <Do onClick={() => setAsked(false)}>Keep</Do>
            </>
          ) : (
            <Do onClick={() => setAsked(true)} disabled={!over}>
              Erase
            </Do>
          ))}
      </Flex>
    </section>
  );
}
