import type { Schemas } from "../../../../api";
import { Button, TextInput } from "../../../../kit/ui";
import { SourceSelect } from "./SourceSelect";
import type { Rule } from "./words";
import { carriedWords, factWords, freshColumn } from "./words";

/** The columns of a sheet in their order, each with what it comes from and what a real lead would bring. */
export function ColumnList({
  view,
  mapping,
  disabled,
  onChange,
}: {
  view: Schemas["MappingView"];
  mapping: Schemas["DestinationMapping"];
  disabled: boolean;
  onChange: (mapping: Schemas["DestinationMapping"]) => void;
}) {
  const rules = mapping.rules ?? [];
  const put = (next: Rule[]) => onChange({ ...mapping, rules: next });
  const move = (at: number, by: number) => {
    const next = [...rules];
    const [rule] = next.splice(at, 1);
    if (rule) next.splice(at + by, 0, rule);
    put(next);
  };
  const start = (): Rule[] =>
    (["filed_at", "name", "company", "email", "phone", "wants", "band", "points", "owner", "link"] as const).map(
      (fact) => ({ object: "lead", property: factWords[fact], from: { fact } }),
    );
  return (
    <>
      {rules.length === 0 && (
        <p className="mt-3">
          The sheet has no columns yet.{" "}
          {!disabled && (
            <Button look="quiet" onClick={() => put(start())}>
              Begin with ten usual ones
            </Button>
          )}
        </p>
      )}
      {rules.length > 0 && (
        <table className="mt-3 w-full border-collapse text-sm">
          <thead>
            <tr className="border-b border-line text-left text-xs text-soft [&_th]:pr-3 [&_th]:pb-1 [&_th]:font-normal">
              <th className="w-[26%]">Column</th>
              <th className="w-[34%]">Comes from</th>
              <th>{view.example ? `For ${view.example.name ?? "the newest lead"}` : "No lead yet to show"}</th>
              <th className="w-28">
                <span className="sr-only">Its place</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {rules.map((rule, at) => {
              const shown = carriedWords(view.example?.carried[at]);
              return (
                // oxlint-disable-next-line react/no-array-index-key -- columns are told apart by their place
                <tr key={at} className="border-b border-line">
                  <td className="py-1 pr-3">
                    <TextInput
                      aria-label={`Name of column ${at + 1}`}
                      className="!py-0.5"
                      disabled={disabled}
                      maxLength={100}
                      value={rule.property}
                      onChange={(event) =>
                        put(
                          rules.map((each, place) => (place === at ? { ...each, property: event.target.value } : each)),
                        )
                      }
                    />
                  </td>
                  <td className="py-1 pr-3">
                    <SourceSelect
                      label={`Column ${at + 1} comes from`}
                      from={rule.from}
                      fields={view.fields}
                      disabled={disabled}
                      onChange={(from) =>
                        from && put(rules.map((each, place) => (place === at ? { ...each, from } : each)))
                      }
                    />
                  </td>
                  <td className="max-w-0 truncate py-1 pr-2" title={shown.says}>
                    {shown.says}
                  </td>
                  <td className="py-1 text-right whitespace-nowrap">
                    {!disabled && (
                      <>
                        <Button
                          look="quiet"
                          aria-label={`Move column ${at + 1} up`}
                          disabled={at === 0}
                          onClick={() => move(at, -1)}
                        >
                          ↑
                        </Button>
                        <Button
                          look="quiet"
                          aria-label={`Move column ${at + 1} down`}
                          disabled={at === rules.length - 1}
                          onClick={() => move(at, 1)}
                        >
                          ↓
                        </Button>
                        <Button
                          look="quiet"
                          aria-label={`Take column ${at + 1} out`}
                          onClick={() => put(rules.filter((_, place) => place !== at))}
                        >
                          ✕
                        </Button>
                      </>
                    )}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      )}
      {!disabled && (
        <Button
          className="mt-2"
          onClick={() =>
            put([...rules, { object: "lead", property: freshColumn(rules, "Column"), from: { fact: "name" } }])
          }
        >
          Add a column
        </Button>
      )}
    </>
  );
}
