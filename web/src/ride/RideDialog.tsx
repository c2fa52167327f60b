import { Modal } from '@mantine/core';
import type { ReactNode } from 'react';
import classes from './Ride.module.css';
import { rideTheme, useRideTheme } from './rideTheme';

interface RideDialogProps {
  title: string;
  onClose: () => void;
  children: ReactNode;
}

/** What lies over the ride: the whole screen, closed by Back, by Esc and by its own key. */
export function RideDialog({ title, onClose, children }: RideDialogProps) {
  const [theme] = useRideTheme();
  return (
    <Modal
      opened
      onClose={onClose}
      fullScreen
      // Beside the page and not in it: its column is narrower than a laptop's window.
      data-mantine-color-scheme={theme === 'dark' ? 'dark' : 'light'}
      transitionProps={{ duration: 0 }}
      withCloseButton={false}
      title={title}
      padding={0}
      classNames={{
        root: rideTheme(theme),
        content: classes.over,
        header: classes.overHead,
        title: classes.overTitle,
        body: classes.overBody,
      }}
    >
      {children}
    </Modal>
  );
}
