import { Modal } from '@mantine/core';
import type { ReactNode } from 'react';
import classes from './Ride.module.css';

interface RideDialogProps {
  title: string;
  onClose: () => void;
  children: ReactNode;
}

/** What lies over the ride: the whole screen, closed by Back, by Esc and by its own key. */
export function RideDialog({ title, onClose, children }: RideDialogProps) {
  return (
    <Modal
      opened
      onClose={onClose}
      fullScreen
      // Within the ride, so that it is in the ride's theme.
      withinPortal={false}
      transitionProps={{ duration: 0 }}
      withCloseButton={false}
      title={title}
      padding={0}
      classNames={{
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
