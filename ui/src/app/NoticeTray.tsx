import { Button } from '../kit/Button';
import { asSentence } from '../kit/words';
import { useNotices } from '../api/notices';

/** Sentences at the foot of the page; they stay until they are put away. */
export function NoticeTray() {
  const { notices, dismiss } = useNotices();
  return (
    <div aria-live="polite" className="fixed bottom-4 left-1/2 z-30 flex -translate-x-1/2 flex-col gap-2">
      {notices.map((notice) => (
        <div key={notice.id} className="panel flex items-center gap-3 px-3 py-2 shadow-card">
          <span>{asSentence(notice.text)}</span>
          {notice.undo && (
            <Button
              look="act"
              onClick={() => {
                notice.undo?.();
                dismiss(notice.id);
              }}
            >
              Put it back
            </Button>
          )}
          <Button onClick={() => dismiss(notice.id)}>Close</Button>
        </div>
      ))}
    </div>
  );
}
