import { Button, FileInput, Group, Stack, Text, TextInput } from '@mantine/core';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { ApiError, api, unwrap } from '../api/client';
import { routesQuery } from '../api/queries';
import { Dialog } from '../ui/Dialog';
import { sayDone } from '../ui/notes';
import { say } from '../words/en/routes.ftl';

/** A GPX file as a route; refused whole or taken whole. */
export function ImportRoute({ onClose }: { onClose: () => void }) {
  const queryClient = useQueryClient();
  const [id] = useState(() => crypto.randomUUID());
  const [file, setFile] = useState<File | null>(null);
  const [name, setName] = useState('');
  const take = useMutation({
    mutationFn: async () => {
      const body = new FormData();
      body.append('id', id);
      body.append('name', name.trim() || (file?.name.replace(/\.gpx$/i, '') ?? 'Route'));
      if (file) body.append('file', file);
      return unwrap(
        await api.POST('/api/routes/import', { body: body as never, bodySerializer: () => body }),
      );
    },
    onSuccess: async (stored) => {
      await queryClient.invalidateQueries({ queryKey: routesQuery.queryKey });
      sayDone(say('stored-is-saved', { stored: stored.name }));
      onClose();
    },
  });
  const problem = take.error instanceof ApiError ? take.error.problem : null;
  return (
    <Dialog onClose={onClose} title={say('import-a-gpx-file')}>
      <Stack>
        <FileInput
          label={say('gpx-file')}
          placeholder={say('choose-a-track-or-a')}
          accept=".gpx,application/gpx+xml"
          value={file}
          onChange={setFile}
        />
        <TextInput
          label={say('name')}
          placeholder={file?.name.replace(/\.gpx$/i, '')}
          value={name}
          onChange={(event) => setName(event.currentTarget.value)}
          error={problem?.fields?.name}
        />
        {take.error && (
          <div role="alert">
            <Text c="var(--buoy)">{take.error.message}</Text>
            {problem?.faults?.map((fault) => (
              <Text key={fault.message} size="sm">
                {fault.file}: {fault.message}
              </Text>
            ))}
          </div>
        )}
        <Group justify="flex-end">
          <Button onClick={onClose}>{say('cancel')}</Button>
          <Button
            variant="filled"
            onClick={() => take.mutate()}
            loading={take.isPending}
            disabled={file === null}
          >
            {say('import')}
          </Button>
        </Group>
      </Stack>
    </Dialog>
  );
}
