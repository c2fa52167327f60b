import { Button, Stack, Text } from '@mantine/core';
import { Dropzone } from '@mantine/dropzone';
import { say } from '../words/en/logbook.ftl';
import '@mantine/dropzone/styles.css';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useRef } from 'react';
import { useNavigate } from 'react-router';
import { ApiError, api, unwrap } from '../api/client';
import { TESTS_KEY } from '../api/queries';
import { Dialog } from '../ui/Dialog';
import { sayDone } from '../ui/notes';
import classes from './Logbook.module.css';

interface ImportDialogProps {
  opened: boolean;
  onClose: () => void;
}

/** What the server takes at once; a larger upload would be cut off on its way. */
const MOST_BYTES = 512 * 2 ** 20;

/** Drop a bundle: its zip, or its files together. Refused whole or taken whole. */
export default function ImportDialog({ opened, onClose }: ImportDialogProps) {
  const queryClient = useQueryClient();
  const navigate = useNavigate();
  const choose = useRef<() => void>(null);
  const take = useMutation({
    mutationFn: async (files: File[]) => {
      if (files.reduce((sum, file) => sum + file.size, 0) > MOST_BYTES) {
        throw new Error(say('that-is-over-512-mib'));
      }
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
      queryClient.invalidateQueries({ queryKey: TESTS_KEY });
      sayDone(say('the-test-is-in-the'));
      onClose();
      navigate(`/tests/${test.id}`);
    },
  });
  const faults = take.error instanceof ApiError ? (take.error.problem.faults ?? []) : [];
  return (
    <Dialog
      opened={opened}
      onClose={() => {
        take.reset();
        onClose();
      }}
      title={say('import-a-test')}
      size="lg"
    >
      <Stack>
        <Dropzone
          openRef={choose}
          activateOnClick={false}
          enablePointerEvents
          loading={take.isPending}
          multiple
          useFsAccessApi={false}
          onDrop={(files) => files.length > 0 && take.mutate(files)}
          className={classes.drop}
          aria-label={say('files-to-import')}
        >
          <Text>{say('drop-a-bundle-here-its')}</Text>
          <Button variant="filled" mt="sm" onClick={() => choose.current?.()}>
            {say('choose-files')}
          </Button>
        </Dropzone>
        {take.error && (
          <div role="alert">
            <Text fw={650}>{take.error.message}</Text>
            {faults.length > 0 && (
              <ul className={classes.faults}>
                {faults.map((fault) => (
                  <li key={`${fault.file}:${fault.line}:${fault.column}:${fault.message}`}>
                    <span className={classes.place}>
                      {fault.file}
                      {fault.line > 0 ? say('line-line', { line: fault.line }) : ''}
                      {fault.column > 0 ? say('column-column', { column: fault.column }) : ''}
                    </span>{' '}
                    {fault.message}
                  </li>
                ))}
              </ul>
            )}
          </div>
        )}
      </Stack>
    </Dialog>
  );
}
