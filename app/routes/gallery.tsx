/** Development only: every block in the shapes it can take, at both widths, light and dark. */
import { data } from "react-router";
import { LIMITS } from "#core/limits.ts";
import { samples } from "#core/testing/samples.ts";
import { at } from "../request.ts";
import type { Route } from "./+types/gallery.ts";

export const meta = () => [{ title: "Gallery · Septima" }];

export function loader({ context }: Route.LoaderArgs) {
  if (!at(context).services.config.gallery) throw data("There is no page here.", { status: 404 });
  return { names: samples(["0".repeat(64)]).map(({ name }) => name) };
}

const WIDE = LIMITS.emailWidth.standard;
const NARROW = LIMITS.narrowWidth;

export default function Gallery({ loaderData }: Route.ComponentProps) {
  return (
    <main className="p-6">
      <h1 className="mb-4 text-display">Gallery</h1>
      {loaderData.names.map((name) => (
        <section key={name} aria-label={name} className="mb-8">
          <h2 className="mb-2 text-lead">
            <a className="link" href={`/gallery/${name}`}>
              {name}
            </a>
          </h2>
          <div className="flex flex-wrap items-start gap-3">
            {(["light", "dark"] as const).flatMap((scheme) =>
              [WIDE, NARROW].map((width) => (
                <iframe
                  key={`${scheme}${width}`}
                  title={`${name}, ${width} px, ${scheme}`}
                  src={`/gallery/${name}`}
                  loading="lazy"
                  sandbox="allow-same-origin"
                  style={{ width, height: 360, colorScheme: scheme }}
                  className="outline-1 outline-line"
                />
              )),
            )}
          </div>
        </section>
      ))}
    </main>
  );
}
