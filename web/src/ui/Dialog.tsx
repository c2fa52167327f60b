import { Modal, type ModalProps } from '@mantine/core';
import { useEffect, useState } from 'react';
import { say } from '../words/en/ui.ftl';
import { sayDone } from './notes';

interface DialogProps extends Omit<ModalProps, 'opened'> {
  opened?: boolean;
}

/**
 * A dialog that gives the focus back to where it came from, also when it is taken out of the page
 * at once, and that a slip of Esc or of the pointer does not close once something is typed.
 */
export function Dialog({ opened = true, onClose, children, ...rest }: DialogProps) {
  const [touched, setTouched] = useState(false);
  useEffect(() => {
    if (!opened) return;
    const before = document.activeElement;
    return () => {
      setTouched(false);
      // After the dialog has gone: its own trap holds the focus until then.
      requestAnimationFrame(() => {
        if (before instanceof HTMLElement && before.isConnected) before.focus();
      });
    };
  }, [opened]);
  return (
    <Modal
      {...rest}
      opened={opened}
      onClose={onClose}
      returnFocus={false}
      closeOnClickOutside={!touched}
      closeOnEscape={!touched}
      closeButtonProps={{ 'aria-label': 'Close' }}
    >
      {/* biome-ignore lint/a11y/noStaticElementInteractions: it only listens to the fields within */}
      <div
        onInput={() => setTouched(true)}
        onKeyDown={(event) => {
          if (event.key === 'Escape' && touched && !event.defaultPrevented) {
            sayDone(say('not-saved-yet-save-keeps'));
          }
        }}
      >
        {children}
      </div>
    </Modal>
  );
}
