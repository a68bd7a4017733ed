/** Where files are dropped, or chosen by a click. */
'use client';
import { Upload } from 'lucide-react';
import { useState } from 'react';

const READ = '.gdtf,.mvr,.asc,.csv,.tsv,.txt,.md,.markdown,.fountain,.docx,.pdf';

/** A field for files. */
export function DropField({ onFiles }: { onFiles: (files: readonly File[]) => void }) {
  const [isOver, setOver] = useState(false);
  return (
    <label
      onDragOver={(e) => {
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(e) => {
        e.preventDefault();
        e.stopPropagation();
        setOver(false);
        onFiles([...e.dataTransfer.files]);
      }}
      className={`flex h-16 cursor-pointer items-center justify-center gap-3 rounded-lg border border-dashed text-soft focus-within:outline focus-within:outline-2 focus-within:outline-standby ${isOver ? 'border-standby bg-standby-wash' : 'border-edge bg-ink hover:bg-raised'}`}
    >
      <Upload size={18} className="text-muted" />
      Drop files here, or choose them …
      <input
        type="file"
        multiple
        accept={READ}
        aria-label="Files to take in"
        className="sr-only"
        onChange={(e) => {
          onFiles([...(e.target.files ?? [])]);
          // The same file again, mended, is looked at again.
          e.target.value = '';
        }}
      />
    </label>
  );
}
