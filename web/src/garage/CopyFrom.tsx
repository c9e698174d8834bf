import { Refused } from "../ui/Refused";
import { ask, useModels, useSheetChange, type Page } from "./sheets";
import { Dialog } from "../ui/Dialog";
import sheetsCss from "./sheets.module.css";
import textCss from "../ui/text.module.css";

/** Copies what this draft lacks from a similar sheet. */
export function CopyFrom({ page, close }: { page: Page; close: () => void }) {
  const models = useModels();
  const change = useSheetChange(page.id);
  const others = (models.data?.models ?? []).filter((model) => model.id !== page.model.id);
  return (
    <Dialog open title="Copy what is missing from" onCancel={close} footer={null} width={620}>
      <p className={textCss.soft}>
        Values already written here stay. Copies count as yours, and nobody has checked them for
        this model.
      </p>
      <div className={sheetsCss.choose}>
        {others.flatMap((model) =>
          model.sheets.slice(0, 1).map((sheet) => (
            <button
              key={sheet.id}
              onClick={() => change.mutate(ask.copy(page.id, sheet.id), { onSuccess: close })}
            >
              {model.make} {model.name}, {model.year} · {model.layout} · version {sheet.version}
            </button>
          )),
        )}
      </div>
      <Refused said={change.error?.message} />
    </Dialog>
  );
}
