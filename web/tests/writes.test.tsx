import { useQuery } from "@tanstack/react-query";
import { fireEvent, screen } from "@testing-library/react";
import { expect, it } from "vitest";
import { client } from "../src/api/queries";
import { useWrite } from "../src/api/writes";
import { shown } from "./shown";

it("asks again where the first answer tells of the time before a write", async () => {
  let kept = "open";
  const waiting: (() => void)[] = [];
  function One() {
    const { data = "nothing yet" } = useQuery({
      queryKey: ["reviews"],
      queryFn: () => {
        const then = kept;
        return new Promise<string>((answer) => waiting.push(() => answer(then)));
      },
    });
    const write = useWrite(async () => void (kept = "approved"), ["reviews"]);
    return <button onClick={() => write.mutate()}>{data}</button>;
  }
  shown(<One />);
  fireEvent.click(screen.getByText("nothing yet"));
  await expect.poll(() => client.isMutating()).toBe(1);
  await expect.poll(() => kept).toBe("approved");
  waiting[0]?.();
  await expect.poll(() => waiting.length).toBe(2);
  waiting[1]?.();
  expect(await screen.findByText("approved")).toBeTruthy();
});
