/** Every part of the kit on one page, to be looked at and gone through by keyboard; nothing here is kept. */
import { Box, Flex, Text } from "@chakra-ui/react";
import { type ReactNode, useState } from "react";
import { Banner } from "../ui/Banner";
import { Boundary } from "../ui/Boundary";
import { Button, IconButton, LinkButton } from "../ui/Button";
import { ButtonsField, type Choice, YesNoField } from "../ui/ChoiceField";
import { Check, CheckGroup } from "../ui/CheckField";
import { ComboboxField } from "../ui/ComboboxField";
import { DateField, TimeField } from "../ui/DateField";
import { Dialog, Drawer } from "../ui/Dialog";
import { FileButton, FileDrop } from "../ui/FileDrop";
import { FilterList } from "../ui/FilterList";
import { Fold } from "../ui/Fold";
import { Menu } from "../ui/Menu";
import { Popover } from "../ui/Popover";
import { Tooltip } from "../ui/Tooltip";
import { FieldGrid, Line, Lines, Page, Section } from "../ui/Page";
import { Segments } from "../ui/Segments";
import { SelectField } from "../ui/SelectField";
import { Empty, Progress, Told } from "../ui/States";
import { Table } from "../ui/Table";
import { Tabs } from "../ui/Tabs";
import { Tag } from "../ui/Tag";
import { NumberField, TextField } from "../ui/TextField";
import { tell } from "../ui/tell";

const FUELS: readonly Choice[] = [
  ["oil", "Oil"],
  ["gas", "Gas"],
  ["wood", "Wood"],
];
const BOATS = ["Curlew", "Dunlin", "Gannet", "Petrel"].map((name) => ({ key: name.toLowerCase(), title: name }));

export default function Kit() {
  return (
    <Page title="The kit">
      <Controls />
      <Choosing />
      <Surfaces />
      <Telling />
    </Page>
  );
}

/** What stands in the field now, for who looks and for the test. */
function Now({ name, children }: { name: string; children: ReactNode }) {
  return (
    <Text fontSize="sm" color="quiet" data-now={name}>
      {children}
    </Text>
  );
}

function Controls() {
  const [name, setName] = useState("");
  const [ohms, setOhms] = useState("");
  const [on, setOn] = useState("2026-11-26");
  const [at, setAt] = useState("08:30");
  return (
    <Section title="Typed" first>
      <FieldGrid>
        <div>
          <TextField label="Name" hint="As painted on the hull." value={name} change={setName} maxLength={40} />
          <Now name="name">{name}</Now>
        </div>
        <TextField label="Refused" refused="Say what was found." value="" change={setName} />
        <TextField label="Lines" rows={2} value={name} change={setName} />
        <div>
          <NumberField label="Loop" unit="Ω" value={ohms} change={setOhms} />
          <Now name="ohms">{ohms}</Now>
        </div>
        <div>
          <DateField label="Day" value={on} change={setOn} />
          <Now name="day">{on}</Now>
        </div>
        <div>
          <TimeField label="Hour" value={at} change={setAt} />
          <Now name="time">{at}</Now>
        </div>
        <TextField label="Not now" disabled value="standing back" change={setName} />
      </FieldGrid>
    </Section>
  );
}

function Choosing() {
  const [fuel, setFuel] = useState("oil");
  const [few, setFew] = useState<string | null>(null);
  const [sound, setSound] = useState<boolean | null>(null);
  const [by, setBy] = useState("oil");
  const [all, setAll] = useState<string[]>(["gas"]);
  const [kept, setKept] = useState(false);
  const [typed, setTyped] = useState("");
  const [boat, setBoat] = useState("");
  const [filtered, setFiltered] = useState("");
  const [chosen, setFound] = useState("");
  const fits = (text: string) => BOATS.filter((one) => one.title.toLowerCase().startsWith(text.toLowerCase()));
  return (
    <Section title="Chosen">
      <FieldGrid>
        <div>
          <SelectField label="Fuel" value={fuel} choices={FUELS} change={setFuel} />
          <Now name="fuel">{fuel}</Now>
        </div>
        <div>
          <ButtonsField label="Of few" value={few} choices={FUELS} change={setFew} />
          <Now name="few">{few ?? "none"}</Now>
        </div>
        <div>
          <YesNoField label="Sound" value={sound} change={setSound} />
          <Now name="sound">{sound === null ? "not known" : String(sound)}</Now>
        </div>
        <div>
          <Segments label="Order" value={by} choices={FUELS} change={setBy} />
          <Now name="by">{by}</Now>
        </div>
        <div>
          <CheckGroup label="All of these" values={all} choices={FUELS} change={setAll} />
          <Now name="all">{all.join()}</Now>
        </div>
        <div>
          <Check checked={kept} change={setKept}>
            Keep it
          </Check>
          <Now name="kept">{String(kept)}</Now>
        </div>
        <div>
          <ComboboxField
            label="Boat"
            list="Boats"
            text={typed}
            type={setTyped}
            options={typed ? fits(typed) : []}
            choose={(key) => {
              setBoat(key);
              setTyped("");
            }}
          />
          <Now name="boat">{boat}</Now>
        </div>
        <div>
          <FilterList
            label="Boat in a list"
            list="All boats"
            empty="No such boat."
            text={filtered}
            type={setFiltered}
            options={fits(filtered)}
            choose={setFound}
            enter={() => setFound("")}
          />
          <Now name="found">{chosen}</Now>
        </div>
      </FieldGrid>
    </Section>
  );
}

function Surfaces() {
  const [open, setOpen] = useState<"dialog" | "drawer" | null>(null);
  const [part, setPart] = useState("hull");
  const [did, setDid] = useState("");
  return (
    <Section title="Opened">
      <Flex wrap="wrap" gap="3" mb="4">
        <Button variant="action" onClick={() => setOpen("dialog")}>
          Dialog
        </Button>
        <Button onClick={() => setOpen("drawer")}>Drawer</Button>
        <Menu
          label="Acts"
          trigger={<Button>Menu</Button>}
          acts={[
            { name: "Moor", act: () => setDid("moored") },
            { name: "Cast off", act: () => setDid("cast off") },
          ]}
        />
        <Popover label="More words" trigger={<Button variant="quiet">Popover</Button>}>
          {(close) => <Button onClick={close}>Enough</Button>}
        </Popover>
        <Tooltip says="Add a boat">
          <IconButton icon="add" label="Add" onClick={() => setDid("added")} />
        </Tooltip>
        <Button variant="ink" hotkey="K">
          At hand
        </Button>
        <Button variant="choice" pressed>
          Chosen
        </Button>
        <Button busy>Busy</Button>
        <LinkButton to="/">Home</LinkButton>
      </Flex>
      <Now name="did">{did}</Now>
      <Tabs
        label="Parts of a boat"
        chosen={part}
        choose={setPart}
        parts={[
          { key: "hull", name: "Hull", children: <p>Larch on oak.</p> },
          { key: "rig", name: "Rig", children: <p>One mast.</p> },
        ]}
      />
      <Fold title="Folded">
        <p>Seldom wanted.</p>
      </Fold>
      {open === "dialog" && (
        <Dialog
          title="A question"
          close={() => setOpen(null)}
          footer={
            <Button variant="action" onClick={() => setOpen(null)}>
              Answer
            </Button>
          }
        >
          <p>Is the kettle on?</p>
        </Dialog>
      )}
      {open === "drawer" && (
        <Drawer title="Facts" close={() => setOpen(null)}>
          <p>Built 1891.</p>
        </Drawer>
      )}
    </Section>
  );
}

function Telling() {
  const [undone, setUndone] = useState("");
  const [files, setFiles] = useState("");
  const [broken, setBroken] = useState(false);
  const take = (taken: File[]) => setFiles(taken.map((file) => file.name).join());
  return (
    <Section title="Told">
      <Banner
        role="note"
        acts={<Button onClick={() => tell("The boat is taken out.", () => setUndone("back"))}>Tell</Button>}
      >
        Something asks for an answer.
      </Banner>
      <Now name="undone">{undone}</Now>
      <Told>It was kept.</Told>
      <Told trouble>It was not kept.</Told>
      <Box maxW="20rem" mb="4">
        <Progress label="Sent" done={3} of={8} />
      </Box>
      <Lines label="Boats">
        <Line>
          <b>Curlew</b> <Tag>moored</Tag>
        </Line>
      </Lines>
      <Table
        caption="Draughts"
        columns={[{ name: "Boat" }, { name: "Draught, m", figure: true }]}
        rows={[{ key: "c", cells: ["Curlew", "1.40"] }]}
        foot={["All", "1.40"]}
      />
      <Empty title="Nothing here">What will be here, and what to do first.</Empty>
      <FileDrop
        label="Papers"
        title="Choose a paper, or drop it here"
        line="a text"
        accept={["text/plain"]}
        take={take}
      />
      <FileButton label="Photo" accept={["image/*"]} take={take}>
        <Button>+ Photo</Button>
      </FileButton>
      <Now name="files">{files}</Now>
      <Boundary what="The broken part">
        <Button onClick={() => setBroken(true)}>Break</Button>
        {broken && <Broken />}
      </Boundary>
    </Section>
  );
}

function Broken(): ReactNode {
  throw new Error("a part that throws");
}
