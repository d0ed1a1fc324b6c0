/** Asks for a review clip of the reel, and says how far it is. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { declared } from "../api/declared";
import { got, server } from "../api/client";
import { useWrite } from "../api/writes";
import type { Delivery, Project, ReviewPlan } from "../api/types";
import { Button } from "../kit/button";
import { Quiet } from "../kit/layout";
import { Sheet } from "../kit/sheet";
import { Trouble } from "../kit/trouble";
import { askedOfProject, running } from "../projects/asked";
import { ReviewSettings } from "../projects/reviewsettings";

/** The newest delivery that is, or will be, a review clip. */
const ofReview = (d: Delivery) => d.parts.some((p) => p.part === "review");

export function MakeReview({ project }: { project: Project }) {
  const [open, setOpen] = useState(false);
  const { data: deliveries = [] } = useQuery(askedOfProject.deliveries(project.id));
  const busy = deliveries.find(running);
  const last = deliveries.find(ofReview);
  const part = busy?.parts.find((p) => p.part === "review");
  return (
    <>
      {part ? (
        <Quiet role="status">
          review clip: {part.done} of {part.total}
        </Quiet>
      ) : last?.review ? (
        <Link to={`/projects/${project.id}/review/${last.number}`} aria-label="Watch the last review clip">
          Watch
        </Link>
      ) : null}
      <Button onPress={() => setOpen(true)} isDisabled={!!busy}>
        Review clip …
      </Button>
      {open ? <Asking project={project} onClose={() => setOpen(false)} /> : null}
    </>
  );
}

function Asking({ project, onClose }: { project: Project; onClose: () => void }) {
  const [review, setReview] = useState<ReviewPlan>(declared.plan.review);
  const make = useWrite(
    () =>
      got(
        server.POST("/api/projects/{project_id}/deliveries", {
          params: { path: { project_id: project.id } },
          body: { ...declared.plan, parts: ["review"], review },
        }),
      ),
    ["project", "projects"],
  );
  return (
    <Sheet title="Review clip" width={560} onClose={onClose}>
      <p>
        One file of the shots in order under their looks, for a BT.709 display, with their sound. It is kept
        as a delivery, and people of the project can watch it at its own address.
      </p>
      <ReviewSettings
        project={project}
        review={review}
        onChange={(said) => setReview((now) => ({ ...now, ...said }))}
      />
      <Trouble error={make.error} />
      <footer>
        <Button onPress={onClose}>Not now</Button>
        <Button
          look="main"
          isDisabled={make.isPending}
          onPress={() => make.mutate(undefined, { onSuccess: onClose })}
        >
          Make it
        </Button>
      </footer>
    </Sheet>
  );
}
