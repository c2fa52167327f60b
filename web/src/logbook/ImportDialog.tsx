import { Button, FileButton, Modal, Stack, Text } from '@mantine/core';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type DragEvent, useState } from 'react';
import { useNavigate } from 'react-router';
import { ApiError, api, unwrap } from '../api/client';
import { testsQuery } from '../api/queries';
import { droppedFiles } from './dropped';
import classes from './Logbook.module.css';

interface ImportDialogProps {
  opened: boolean;
  onClose: () => void;
}

/** Drop a bundle: its zip, or its files together. Refused whole or taken whole. */
export function ImportDialog({ opened, onClose }: ImportDialogProps) {
  const queryClient = useQueryClient();
  const navigate = useNavigate();
  const [dropping, setDropping] = useState(false);
  const take = useMutation({
    mutationFn: async (files: File[]) => {
      const body = new FormData();
      body.append('id', crypto.randomUUID());
      for (const file of files) body.append('files', file);
      return unwrap(
        await api.POST('/api/tests/import', {
          // The schema describes the parts; the browser sends them as a form.
          body: body as never,
          bodySerializer: () => body,
        }),
      );
    },
    onSuccess: (test) => {
      queryClient.invalidateQueries({ queryKey: testsQuery.queryKey });
      onClose();
      navigate(`/tests/${test.id}`);
    },
  });
  const faults = take.error instanceof ApiError ? (take.error.problem.faults ?? []) : [];
  function drop(event: DragEvent) {
    event.preventDefault();
    setDropping(false);
    droppedFiles(event.dataTransfer).then((files) => files.length > 0 && take.mutate(files));
  }
  return (
    <Modal
      opened={opened}
      onClose={() => {
        take.reset();
        onClose();
      }}
      title="Import a test"
      size="lg"
    >
      <Stack>
        {/* biome-ignore lint/a11y/noStaticElementInteractions: the button inside does the same */}
        <div
          className={`${classes.drop} ${dropping ? classes.dropping : ''}`}
          onDragOver={(event) => {
            event.preventDefault();
            setDropping(true);
          }}
          onDragLeave={() => setDropping(false)}
          onDrop={drop}
        >
          <Text>
            Drop a bundle here: its folder, its zip, or its files together. It needs test.json with
            samples.csv, entries.csv or both.
          </Text>
          <FileButton onChange={(files) => files.length > 0 && take.mutate(files)} multiple>
            {(props) => (
              <Button {...props} variant="filled" loading={take.isPending}>
                Choose files
              </Button>
            )}
          </FileButton>
        </div>
        {take.error && (
          <div role="alert">
            <Text fw={650}>{take.error.message}</Text>
            {faults.length > 0 && (
              <ul className={classes.faults}>
                {faults.map((fault) => (
                  <li key={`${fault.file}:${fault.line}:${fault.column}:${fault.message}`}>
                    <span className={classes.place}>
                      {fault.file}
                      {fault.line > 0 ? `, line ${fault.line}` : ''}
                      {fault.column > 0 ? `, column ${fault.column}` : ''}
                    </span>{' '}
                    {fault.message}
                  </li>
                ))}
              </ul>
            )}
          </div>
        )}
      </Stack>
    </Modal>
  );
}
