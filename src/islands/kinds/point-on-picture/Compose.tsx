import { type PointerEvent, useRef, useState } from "react";
import type { PointOnPicture, Region } from "@/core/kinds/point-on-picture/mark";
import { t } from "@/words/t";
import type { ComposeProps } from "../compose-props";
import { useAuthorPictures } from "../writing/author-pictures";
import {
  Choice,
  LaterField,
  Mistake,
  numberOrText,
  PlainField,
  textOf,
  wholeOrNone,
} from "../writing/fields";
import { ItemRows } from "../writing/ItemRows";
import { PictureWritten } from "../writing/PictureWritten";
import { stepNames } from "../writing/step-names";

type Shape = Region["shape"];

/** A share with so many decimals is finer than any screen. */
const rounded = (share: number): number => Math.round(Math.min(1, Math.max(0, share)) * 10_000) / 10_000;

interface Spot {
  readonly x: number;
  readonly y: number;
}

/** A region as it is drawn from one spot to another. */
function drawnRegion(shape: Shape, id: string, name: string, from: Spot, to: Spot, aspect: number): Region {
  const [left, right] = [Math.min(from.x, to.x), Math.max(from.x, to.x)];
  const [top, bottom] = [Math.min(from.y, to.y), Math.max(from.y, to.y)];
  if (shape === "circle") {
    const reach = Math.hypot((to.x - from.x) * aspect, to.y - from.y);
    return {
      id,
      name,
      shape,
      x: rounded(from.x),
      y: rounded(from.y),
      radius: rounded(Math.max(0.02, reach)),
    };
  }
  if (shape === "rectangle")
    return {
      id,
      name,
      shape,
      x: rounded(left),
      y: rounded(top),
      width: rounded(Math.max(0.02, right - left)),
      height: rounded(Math.max(0.02, bottom - top)),
    };
  const corners = [
    { x: left, y: top },
    { x: right, y: top },
    { x: right, y: bottom },
    { x: left, y: bottom },
  ].map(({ x, y }) => ({ x: rounded(x), y: rounded(y) }));
  return { id, name, shape: "polygon", corners };
}

/** The figures that a region is made of, for who writes them. */
const figuresOf = (
  region: Region,
): readonly { readonly name: "x" | "y" | "radius" | "width" | "height" }[] =>
  region.shape === "circle"
    ? [{ name: "x" }, { name: "y" }, { name: "radius" }]
    : region.shape === "rectangle"
      ? [{ name: "x" }, { name: "y" }, { name: "width" }, { name: "height" }]
      : [];

const cornersText = (region: Region): string =>
  region.shape === "polygon" ? region.corners.map(({ x, y }) => `${x} ${y}`).join("; ") : "";

const cornersIn = (text: string): Spot[] =>
  text
    .split(";")
    .map((pair) => pair.trim().split(/\s+/).map(Number))
    .filter(([x, y]) => Number.isFinite(x) && Number.isFinite(y))
    .map(([x = 0, y = 0]) => ({ x: rounded(x), y: rounded(y) }));

/** A picture with the places in it that are right: drawn with the pointer, or written as figures. */
export function PointOnPictureCompose(props: ComposeProps<PointOnPicture>) {
  const { question, slot, language, mistakes, newName, onChange } = props;
  const picture = useAuthorPictures().find(question.picture);
  const [shape, setShape] = useState<Shape>("circle");
  const [from, setFrom] = useState<Spot | null>(null);
  const [to, setTo] = useState<Spot | null>(null);
  const box = useRef<HTMLDivElement>(null);
  const { regions, aspect } = question;
  const put = (next: readonly Region[], words: string, typedIn?: string) =>
    onChange({ ...question, regions: next }, words, typedIn);
  const set = (next: Region, words: string, typedIn?: string) =>
    put(
      regions.map((each) => (each.id === next.id ? next : each)),
      words,
      typedIn,
    );
  const nameOf = (_: unknown, place: number) => t("compose.point-on-picture.place", { nth: place + 1 });
  const spot = (event: PointerEvent): Spot => {
    const at = box.current?.getBoundingClientRect();
    return at
      ? { x: (event.clientX - at.left) / at.width, y: (event.clientY - at.top) / at.height }
      : { x: 0, y: 0 };
  };
  const add = (a: Spot, b: Spot) =>
    put([...regions, drawnRegion(shape, newName("r"), "", a, b, aspect)], stepNames.added());
  const drawing = from && to ? drawnRegion(shape, "drawing", "", from, to, aspect) : null;
  const shapes = [
    { value: "circle" as const, words: t("compose.point-on-picture.circle") },
    { value: "rectangle" as const, words: t("compose.point-on-picture.rectangle") },
    { value: "polygon" as const, words: t("compose.point-on-picture.polygon") },
  ];
  return (
    <div className="grid gap-4">
      {picture && (
        <div className="grid gap-2">
          <Choice
            label={t("compose.point-on-picture.draw-as")}
            value={shape}
            options={shapes}
            onChange={setShape}
          />
          <p className="small">{t("compose.point-on-picture.draw-the-places")}</p>
          <div
            ref={box}
            className="relative w-fit cursor-crosshair touch-none select-none"
            onPointerDown={(event) => {
              event.currentTarget.setPointerCapture(event.pointerId);
              setFrom(spot(event));
              setTo(spot(event));
            }}
            onPointerMove={(event) => from && setTo(spot(event))}
            onPointerUp={(event) => {
              if (from) add(from, spot(event));
              setFrom(null);
              setTo(null);
            }}
          >
            <img
              src={picture.src}
              alt={picture.alt}
              draggable={false}
              className="block max-h-[26rem] w-auto max-w-full rounded-sm border border-line bg-white"
            />
            <svg
              className="pointer-events-none absolute inset-0 size-full"
              viewBox={`0 0 ${aspect * 100} 100`}
              preserveAspectRatio="none"
              aria-hidden="true"
            >
              {[...regions, ...(drawing ? [drawing] : [])].map((region) => (
                <RegionShape key={region.id} region={region} aspect={aspect} />
              ))}
            </svg>
          </div>
        </div>
      )}
      <PictureWritten
        isNeeded
        id={picture?.id}
        label={t("compose.point-on-picture.the-picture")}
        mistake={mistakes.get("picture") ?? (picture ? undefined : mistakes.get(""))}
        onPut={(each) =>
          onChange({ ...question, picture: each.id, aspect: rounded4(each.aspect) }, stepNames.picture())
        }
        onRemove={() => {}}
      />
      <section>
        <h3 className="label">{t("compose.point-on-picture.right-places")}</h3>
        <ItemRows
          items={regions}
          nameOf={nameOf}
          least={0}
          onMove={(next) => put(next, stepNames.moved())}
          onRemove={({ id }) =>
            put(
              regions.filter((each) => each.id !== id),
              stepNames.removed(),
            )
          }
        >
          {(region, place) => {
            const name = nameOf(region, place);
            const at = `regions[${place}]`;
            return (
              <div className="grid gap-2">
                <PlainField
                  label={t("compose.point-on-picture.what-is-there", { name })}
                  isQuiet
                  language={language}
                  placeholder={t("compose.point-on-picture.name-it")}
                  maxLength={200}
                  value={region.name}
                  mistake={mistakes.get(`${at}.name`)}
                  onChange={(text) =>
                    set({ ...region, name: text }, stepNames.typing(), `piece-${slot} ${region.id}`)
                  }
                />
                <div className="flex flex-wrap gap-2">
                  {figuresOf(region).map(({ name: figure }) => (
                    <LaterField
                      key={figure}
                      className="w-24"
                      label={t("compose.point-on-picture.figure", { figure, name })}
                      isQuiet
                      inputMode="decimal"
                      maxLength={8}
                      value={textOf((region as unknown as Record<string, number>)[figure])}
                      mistake={mistakes.get(`${at}.${figure}`)}
                      onChange={(text) => {
                        const value = numberOrText(text);
                        if (typeof value === "number")
                          set({ ...region, [figure]: rounded(value) } as Region, stepNames.key());
                      }}
                    />
                  ))}
                  {region.shape === "polygon" && (
                    <LaterField
                      className="w-80"
                      label={t("compose.point-on-picture.corners", { name })}
                      isQuiet
                      maxLength={2_000}
                      value={cornersText(region)}
                      mistake={mistakes.get(`${at}.corners`)}
                      onChange={(text) => set({ ...region, corners: cornersIn(text) }, stepNames.key())}
                    />
                  )}
                </div>
                <Mistake words={mistakes.get(at)} />
              </div>
            );
          }}
        </ItemRows>
        <Mistake words={mistakes.get("regions")} />
        <button
          type="button"
          className="button mt-2 min-h-9! py-1!"
          onClick={() => add({ x: 0.5, y: 0.5 }, { x: 0.6, y: 0.6 })}
        >
          <span aria-hidden="true">+</span> {t("compose.point-on-picture.add-a-place")}
        </button>
      </section>
      <div className="flex flex-wrap gap-x-6 gap-y-3">
        <Choice
          label={t("compose.several-of-several.how-it-counts")}
          value={question.credit}
          options={[
            { value: "by-region", words: t("compose.point-on-picture.by-place") },
            { value: "all-or-nothing", words: t("compose.several-of-several.all-or-nothing") },
          ]}
          onChange={(credit) => onChange({ ...question, credit }, stepNames.scoring())}
        />
        <PlainField
          className="w-32"
          label={t("compose.point-on-picture.most-points")}
          inputMode="numeric"
          placeholder={String(regions.length)}
          maxLength={2}
          value={textOf(question.most)}
          mistake={mistakes.get("most")}
          onChange={(text) => {
            const { most: _, ...rest } = question;
            const most = wholeOrNone(text);
            onChange(
              most === undefined ? rest : { ...rest, most },
              stepNames.scoring(),
              `piece-${slot} most`,
            );
          }}
        />
      </div>
      {picture && <Mistake words={mistakes.get("")} />}
    </div>
  );
}

const rounded4 = (value: number): number => Math.round(value * 10_000) / 10_000;

function RegionShape({ region, aspect }: { readonly region: Region; readonly aspect: number }) {
  const look = "fill-moss/25 stroke-moss [stroke-width:2px] [vector-effect:non-scaling-stroke]";
  if (region.shape === "circle")
    return (
      <circle className={look} cx={region.x * aspect * 100} cy={region.y * 100} r={region.radius * 100} />
    );
  if (region.shape === "rectangle")
    return (
      <rect
        className={look}
        x={region.x * aspect * 100}
        y={region.y * 100}
        width={region.width * aspect * 100}
        height={region.height * 100}
      />
    );
  return (
    <polygon
      className={look}
      points={region.corners.map(({ x, y }) => `${x * aspect * 100},${y * 100}`).join(" ")}
    />
  );
}
