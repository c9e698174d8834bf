import { Input, Tabs } from "antd";
import { Chips, toggled } from "../ui/Chips";
import { Elsewhere } from "./Elsewhere";
import { Pictures } from "./Pictures";
import { PAN, type Loose, type Reading, type Words } from "./reading";
import painterCss from "./painter.module.css";

const FLAKES = "its plating flakes";
const TORN = "a piece is missing";

interface Props {
  bike: string;
  gearbox: boolean;
  words: Words;
  places: Loose["place"][];
  reading: Reading;
  set: (more: Partial<Reading>) => void;
}

function Oil({ words, reading, set }: Props) {
  return (
    <div className={painterCss.oilSeen}>
      <Chips
        label="Looks"
        words={words.looks}
        on={reading.oil}
        toggle={(look) => set({ oil: toggled(reading.oil, look) })}
      />
      <Chips
        label="Smells"
        words={words.smells}
        on={reading.oil}
        toggle={(look) => set({ oil: toggled(reading.oil, look) })}
      />
    </div>
  );
}

function PanAndSeal({ gearbox, reading, set }: Props) {
  return (
    <div className={painterCss.oilSeen}>
      <Chips
        label="Pan"
        words={PAN}
        on={reading.pan ? [reading.pan] : []}
        toggle={(pan) => set({ pan: reading.pan === pan ? "" : pan })}
      />
      <Chips
        label="Old seal"
        words={[TORN]}
        on={reading.seal ? [TORN] : []}
        toggle={() => set({ seal: !reading.seal })}
      />
      {gearbox && (
        <Chips
          label="Dipstick"
          words={[FLAKES]}
          on={reading.dipstick ? [FLAKES] : []}
          toggle={() => set({ dipstick: !reading.dipstick })}
        />
      )}
    </div>
  );
}

function Kept({ reading, set }: Props) {
  return (
    <div className={painterCss.kept}>
      <label>
        Debris and sample are kept
        <Input
          placeholder="Bag 14, shelf by the door"
          value={reading.kept}
          onChange={(event) => set({ kept: event.target.value })}
        />
      </label>
      <label>
        Note
        <Input
          aria-label="Note on the finding"
          placeholder="If there is one"
          value={reading.note}
          onChange={(event) => set({ note: event.target.value })}
        />
      </label>
    </div>
  );
}

const counted = (label: string, number: number) => (number ? `${label} · ${number}` : label);

/** What belongs to a finding besides the plug's face. */
export function Around(props: Props) {
  const { reading } = props;
  const around = [reading.pan, reading.seal, reading.dipstick].filter(Boolean).length;
  return (
    <Tabs
      className={painterCss.around}
      items={[
        { key: "oil", label: counted("Oil", reading.oil.length), children: <Oil {...props} /> },
        {
          key: "around",
          label: counted("Pan and seal", around),
          children: <PanAndSeal {...props} />,
        },
        {
          key: "elsewhere",
          label: counted(
            props.places.includes("plug") ? "Elsewhere" : "Bits in it",
            reading.loose.length,
          ),
          children: (
            <Elsewhere
              words={props.words}
              places={props.places}
              loose={reading.loose}
              set={(loose) => props.set({ loose })}
            />
          ),
        },
        {
          key: "pictures",
          label: counted("Pictures", reading.pictures.length),
          children: (
            <Pictures
              bike={props.bike}
              pictures={reading.pictures}
              set={(pictures) => props.set({ pictures })}
            />
          ),
        },
        {
          key: "kept",
          label: counted("Kept", [reading.kept, reading.note].filter(Boolean).length),
          children: <Kept {...props} />,
        },
      ]}
    />
  );
}
