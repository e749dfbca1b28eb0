import './documents.css';
import type { DealId } from '@ladder/core';
import { Button } from 'react-bootstrap';
import { useDropzone } from 'react-dropzone';
import { UploadList } from './UploadList.tsx';
import { useUploads } from './useUploads.ts';

/** Attaches a document of the kind that a gate asks for, where it is asked. */
export function AttachRemedy({ deal, kind, name }: { deal: DealId; kind: string; name: string }) {
  const { uploads, attach, drop } = useUploads(deal);
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    noClick: true,
    noKeyboard: true,
    onDrop: (files) => attach(kind, files),
  });
  return (
    <div {...getRootProps({ className: `attach-remedy ${isDragActive ? 'on' : ''}` })}>
      <input {...getInputProps({ 'aria-label': `Files to attach as ${name}` })} />
      <Button variant="outline-primary" size="sm" onClick={open}>
        Choose or drop a file
      </Button>
      <UploadList uploads={uploads} onDrop={drop} />
    </div>
  );
}
