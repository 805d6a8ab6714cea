import { Button, Labelled } from "../../../kit/ui";
import { useUpload } from "../fields/useUpload";

/** The picture of who is talking: chosen from a file, shown, taken out. */
export function PictureField({
  picture,
  onKeep,
}: {
  picture: string | null | undefined;
  onKeep: (picture: string | null) => void;
}) {
  const { upload, says } = useUpload();
  return (
    <Labelled label="Picture" hint="PNG, JPEG, GIF or WebP of at most 2 MB; it stands round beside the name.">
      {(id) => (
        <div className="flex items-center gap-3 text-sm">
          {picture && (
            <>
              <img
                src={`/api/media/${picture}`}
                alt="Who is talking"
                width={32}
                height={32}
                className="h-8 w-8 rounded-full object-cover"
              />
              <Button look="quiet" onClick={() => onKeep(null)}>
                Take it out
              </Button>
            </>
          )}
          <input
            id={id}
            type="file"
            accept="image/png,image/jpeg,image/gif,image/webp"
            className="max-w-56 text-xs"
            onChange={async ({ target }) => {
              const file = target.files?.[0];
              const kept = file ? await upload(file) : null;
              if (kept) onKeep(kept.hash);
            }}
          />
          {says && <span className="text-xs text-clay">{says}</span>}
        </div>
      )}
    </Labelled>
  );
}
