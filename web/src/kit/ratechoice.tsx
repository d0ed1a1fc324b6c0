/** How many frames a second a numbered sequence is shown at. */
import { declared } from "../api/declared";
import { Choice } from "./choice";

const OPTIONS = Object.entries(declared.rates)
  .map(([key, label]) => ({ key, label }))
  .sort((a, b) => Number(a.label) - Number(b.label));

export const RateChoice = (props: { look?: "inline"; chosen: string; onChange: (rate: string) => void }) => (
  <Choice label="Frames a second" options={OPTIONS} {...props} />
);
