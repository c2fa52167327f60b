import { Text } from '@mantine/core';

/** What a form was refused for that no field of it can show. */
export function Refusal({ error }: { error: Error | null | undefined }) {
  if (!error) return null;
  return (
    <Text role="alert" c="var(--buoy)">
      {error.message}
    </Text>
  );
}
