import { useCatalog } from '../api/jobs';

interface Props {
  picker: React.Ref<HTMLInputElement>;
  take: (files: File[]) => void;
}

/** The system's own way to choose files; opened by a click on what it refers to. */
export function ArtPicker({ picker, take }: Props) {
  const catalog = useCatalog();
  return (
    <input
      ref={picker}
      type="file"
      multiple
      hidden
      aria-label="Art files"
      accept={catalog.data ? [...catalog.data.limits.endings, '.zip'].join(',') : undefined}
      onChange={(event) => {
        take([...(event.target.files ?? [])]);
        event.target.value = '';
      }}
    />
  );
}
