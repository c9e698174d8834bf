import { clsx } from "clsx";
import { Button, Table, type TableColumnsType } from "antd";
import { useState } from "react";
import type { Shape } from "../api/client";
import { useShelf } from "../api/hooks";
import { colour } from "../ui/theme";
import { Waiting, WentWrong } from "../ui/States";
import { WideDrawing } from "../ui/WideDrawing";
import { Blend } from "./Blend";
import { Drawer } from "./Drawer";
import { EMPTY, FluidDialog } from "./FluidDialog";
import { Standing } from "./Standing";
import { DASHES, ViscosityChart } from "./ViscosityChart";
import { Waste } from "./Waste";
import { Wrenches } from "./Wrenches";
import listsCss from "../ui/lists.module.css";
import pageCss from "../ui/page.module.css";
import shelfCss from "./shelf.module.css";
import textCss from "../ui/text.module.css";

type Card = Shape["FluidCard"];
const NEW = 0;

/** Puts a fluid's line on the chart, or takes it off; the line it has there is drawn on it. */
function Draw({ fluid, place, toggle }: { fluid: Card; place: number; toggle: () => void }) {
  const drawn = place >= 0;
  return (
    <button
      className={clsx(shelfCss.draw, drawn && shelfCss.drawOn)}
      aria-pressed={drawn}
      aria-label={`Draw ${fluid.name}`}
      disabled={fluid.curve.length === 0}
      onClick={toggle}
    >
      {drawn ? "on chart" : "draw"}
      <svg viewBox="0 0 40 6" width={40} height={6} aria-hidden>
        <line
          x2="40"
          y1="3"
          y2="3"
          stroke={drawn ? colour.action : "none"}
          strokeWidth="4"
          strokeDasharray={DASHES[place]}
        />
      </svg>
    </button>
  );
}

function Satisfies({ fluid }: { fluid: Card }) {
  return (
    <>
      {fluid.satisfies.join(", ") || "–"}
      {!fluid.cold_ok && (
        <span className={clsx(shelfCss.shelfSaid, shelfCss.shelfCold)}>{fluid.cold}</span>
      )}
      {fluid.swells && (
        <span className={clsx(textCss.soft, shelfCss.shelfLabel)}>{fluid.swells}</span>
      )}
      {fluid.disagrees.map((said) => (
        <span key={said} className={clsx(textCss.refusal, shelfCss.shelfSaid)}>
          {said}
        </span>
      ))}
    </>
  );
}

interface Shown {
  drawn: number[];
  toggle: (id: number) => void;
  open: ((fluid: Card) => void) | null;
}

function columns({ drawn, toggle, open }: Shown): TableColumnsType<Card> {
  return [
    {
      title: "Fluid, as labelled",
      render: (_, fluid) => (
        <>
          {open ? (
            <button className={shelfCss.fluidName} onClick={() => open(fluid)}>
              {fluid.name}
            </button>
          ) : (
            <b>{fluid.name}</b>
          )}
          <span className={clsx(textCss.soft, shelfCss.shelfLabel)}>
            {[fluid.family, fluid.label, fluid.bottle].filter(Boolean).join(" · ")}
          </span>
        </>
      ),
    },
    {
      title: "40 °C",
      className: textCss.tabular,
      render: (_, f) => f.kv40 || "–",
      responsive: ["sm"],
    },
    {
      title: "100 °C",
      className: textCss.tabular,
      render: (_, f) => f.kv100 || "–",
      responsive: ["sm"],
    },
    {
      title: "Index",
      className: textCss.tabular,
      render: (_, f) => f.index ?? "–",
      responsive: ["md"],
    },
    {
      title: "Measured values satisfy",
      responsive: ["sm"],
      render: (_, fluid) => <Satisfies fluid={fluid} />,
    },
    {
      title: "Chart",
      render: (_, fluid) => (
        <Draw fluid={fluid} place={drawn.indexOf(fluid.id)} toggle={() => toggle(fluid.id)} />
      ),
    },
  ];
}

function Chart({ lines, shelf }: { lines: Card[]; shelf: Shape["Shelf"] }) {
  return (
    <section
      className={clsx(shelfCss.shelfPaper, shelfCss.shelfChart)}
      aria-label="Thickness over temperature"
    >
      <h2>Thickness over temperature</h2>
      <WideDrawing>
        <ViscosityChart fluids={lines} scales={shelf.scales} />
      </WideDrawing>
      <p className={textCss.soft}>
        Engine and gear numbers are different scales for one thickness; the same height never
        licenses a substitution. {shelf.caveat}
      </p>
      <Blend fluids={shelf.fluids} />
    </section>
  );
}

/** What stands and lies there, what hangs on the wall, what goes out again. */
function There({
  fluids,
  mayWork,
  open,
}: {
  fluids: Card[];
  mayWork: boolean;
  open: Shown["open"];
}) {
  return (
    <>
      <div className={shelfCss.shelfAside}>
        <Standing fluids={fluids} open={open} />
        <Waste mayWork={mayWork} />
      </div>
      <div className={shelfCss.shelfAside}>
        <Drawer mayWork={mayWork} />
        <Wrenches mayWork={mayWork} />
      </div>
    </>
  );
}

/** What stands there, what is in the drawer; then the fluids and how they compare in thickness. */
export function Shelf({ mayWork }: { mayWork: boolean }) {
  const shelf = useShelf();
  const [chosen, setChosen] = useState<number[] | null>(null);
  const [opened, setOpened] = useState<number | null>(null);
  if (shelf.isPending) return <Waiting what="Going to the shelf" />;
  if (shelf.isError) return <WentWrong error={shelf.error} again={() => void shelf.refetch()} />;
  const { fluids, families, coldest } = shelf.data;
  const drawable = fluids.filter((fluid) => fluid.curve.length > 0);
  const drawn = chosen ?? drawable.slice(0, 2).map((fluid) => fluid.id);
  const toggle = (id: number) => {
    const others = drawn.filter((other) => other !== id);
    setChosen(drawn.includes(id) ? others : [...drawn, id].slice(-DASHES.length));
  };
  const open = mayWork ? (fluid: Card) => setOpened(fluid.id) : null;
  const form = fluids.find((fluid) => fluid.id === opened)?.form;
  const lines = drawn.flatMap((id) => drawable.filter((fluid) => fluid.id === id));
  return (
    <>
      <div className={pageCss.heading}>
        <h1>Shelf</h1>
        <p className={pageCss.headingSum}>
          {fluids.length} fluids. Coldest start expected: {coldest}.
        </p>
        {mayWork && (
          <Button type="primary" onClick={() => setOpened(NEW)}>
            New fluid
          </Button>
        )}
      </div>
      <div className={shelfCss.shelf}>
        <There fluids={fluids} mayWork={mayWork} open={open} />
        <section className={shelfCss.shelfPaper} aria-label="Fluids">
          <h2>Fluids</h2>
          <Table<Card>
            className={listsCss.lists}
            size="small"
            columns={columns({ drawn, toggle, open })}
            dataSource={fluids}
            rowKey="id"
            pagination={false}
          />
        </section>
        <Chart lines={lines} shelf={shelf.data} />
      </div>
      {opened !== null && (
        <FluidDialog
          start={{ ...EMPTY, ...form }}
          families={families}
          close={() => setOpened(null)}
        />
      )}
    </>
  );
}
