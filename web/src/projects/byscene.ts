/** The shots of a project by scene. */
import type { Project, Scene, Shot } from "../api/types";

/** Scenes in order with their shots; those in none last. */
export function byScene(project: Project): { scene: Scene | null; shots: Shot[] }[] {
  const of = (scene: number | null) => project.shots.filter((s) => s.scene === scene);
  const rest = of(null);
  return [
    ...project.scenes.map((scene) => ({ scene, shots: of(scene.id) })),
    ...(rest.length ? [{ scene: null, shots: rest }] : []),
  ];
}
