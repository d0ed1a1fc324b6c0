/** Above the looks: the search, how many are found, their order, and the ways to see them. */
import { useEffect, useState } from "react";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { Button } from "../kit/button";
import { Choice } from "../kit/choice";
import { Grow, Quiet } from "../kit/layout";
import { Segments } from "../kit/segments";
import { Text } from "../kit/text";
import { useScales } from "./asked";
import type { Density } from "./cards";
import type { Filters } from "./filters";

const Line = styled.div`
  display: flex;
  align-items: center;
  gap: 10px;
  margin-bottom: 14px;
  flex: none;
  > :first-child {
    width: 250px;
  }
`;

const ORDERS = [
  { key: "name", label: "by name" },
  { key: "newest", label: "newest first" },
  { key: "used", label: "most used" },
  { key: "recent", label: "looked at last" },
];

/** Milliseconds that typing must rest before it is searched for. */
const REST = 180;

/** What is typed, in the address once the typing rests. */
function useWords(by: Filters) {
  const q = by.get("q");
  const [text, setText] = useState(q);
  const put = by.put;
  useEffect(() => setText(q), [q]);
  useEffect(() => {
    if (text === q) return;
    const wait = setTimeout(() => put("q", text || null), REST);
    return () => clearTimeout(wait);
  }, [text, q, put]);
  return { text, setText };
}

/** In which order the looks stand, the traits among them. */
function Order({ by }: { by: Filters }) {
  const { data: scales = [] } = useScales();
  const options = [
    ...(by.get("q") ? [{ key: "fit", label: "best fit" }] : []),
    ...(by.get("collection") ? [{ key: "by hand", label: "the collection's order" }] : []),
    ...ORDERS,
    ...scales.map((s) => ({ key: s.key, label: s.more, note: `${s.label.toLowerCase()}, most first` })),
    ...scales.map((s) => ({
      key: `-${s.key}`,
      label: s.less,
      note: `${s.label.toLowerCase()}, least first`,
    })),
  ];
  const order = by.get("order") || "name";
  return (
    <Choice
      look="bare"
      hidden
      label="Order"
      options={options}
      chosen={by.search.get("backwards") ? `-${order}` : order}
      onChange={(key) => {
        by.put("order", key.replace("-", "") === "name" ? null : key.replace("-", ""));
        by.put("backwards", key.startsWith("-") ? "true" : null);
      }}
    />
  );
}

const SIZES = [
  ["large", "large"],
  ["middle", "middle"],
  ["small", "small"],
] as const;
const VIEWS = [
  ["cards", "Cards"],
  ["sheets", "Sheets"],
  ["map", "Map"],
] as const;

/** count: how many looks are found, in words. */
export function CatalogueTools(props: {
  by: Filters;
  view: "cards" | "map";
  count: string;
  density: Density;
  onDensity: (density: Density) => void;
}) {
  const { by, view } = props;
  const words = useWords(by);
  const navigate = useNavigate();
  return (
    <Line>
      <Text
        label="Search"
        hidden
        search
        hint="Name, note, tag, maker, what it does"
        value={words.text}
        onChange={words.setText}
      />
      <Quiet role="status">{props.count}</Quiet>
      {by.set ? (
        <Button
          look="quiet"
          onPress={() => {
            words.setText("");
            by.clear();
          }}
        >
          Show all
        </Button>
      ) : null}
      <Grow />
      {view === "cards" ? (
        <>
          <Order by={by} />
          <Segments label="Size of cards" options={SIZES} chosen={props.density} onChange={props.onDensity} />
        </>
      ) : null}
      <Segments
        label="View"
        options={VIEWS}
        chosen={view}
        onChange={(v) =>
          v === "sheets" ? void navigate("/catalogue/sheet/all") : by.put("view", v === "cards" ? null : v)
        }
      />
    </Line>
  );
}
