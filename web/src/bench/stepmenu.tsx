/** What can be done with the chosen steps. */
import { Menu, MenuItem, MenuTrigger } from "react-aria-components";
import { Button } from "../kit/button";
import { Menued } from "../kit/menued";
import { keysOf, ORDERING } from "./commands";
import { useBench } from "./store";
import { useView } from "./view";

const orderKeys = (id: string) => ORDERING.find((c) => c.id === id)?.keys;
/** What needs a chosen step. */
const OF_CHOSEN = ["duplicate", "remove", "group", "up", "down", "hold", "alone"];

/** isGroup: of the step that was chosen last. */
export function StepMenu(props: { empty: boolean; isGroup: boolean; onAct: (key: string) => void }) {
  const chosen = useBench((s) => s.chosen);
  const only = useView((v) => v.only);
  const alone = only && only === [...chosen].at(-1) ? "See all steps again" : "See this step alone";
  const lines = [
    { id: "up", name: "Move up", keys: orderKeys("up") },
    { id: "down", name: "Move down", keys: orderKeys("down") },
    { id: "group", name: "Group" },
    { id: "ungroup", name: "Ungroup" },
    { id: "duplicate", name: "Duplicate" },
    { id: "alone", name: alone, keys: keysOf("alone") },
    { id: "hold", name: "Copy", keys: "Ctrl C" },
    { id: "put", name: "Paste after", keys: "Ctrl V" },
    { id: "remove", name: "Remove", keys: orderKeys("remove") },
  ];
  return (
    <MenuTrigger>
      <Button look="quiet" isDisabled={props.empty}>
        {chosen.size > 1 ? `${chosen.size} steps` : "Step"} ▾
      </Button>
      <Menued placement="top start">
        <Menu
          aria-label="What to do with the chosen steps"
          onAction={(key) => props.onAct(String(key))}
          disabledKeys={[...(props.isGroup ? [] : ["ungroup"]), ...(chosen.size ? [] : OF_CHOSEN)]}
        >
          {lines.map((line) => (
            <MenuItem key={line.id} id={line.id}>
              {line.name} {line.keys ? <small>{line.keys}</small> : null}
            </MenuItem>
          ))}
        </Menu>
      </Menued>
    </MenuTrigger>
  );
}
