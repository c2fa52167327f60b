import { Button, CopyButton, Text } from '@mantine/core';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, unwrap } from '../api/client';
import { phoneQuery } from '../api/queries';
import { Page, Trouble, Waiting } from '../ui/Page';
import { Refusal } from '../ui/Refusal';
import classes from './Phone.module.css';

/** From the laptop to the phone: the certificate, the trust, the sign-in, the installed application. */
export function TakePage() {
  const phone = useQuery(phoneQuery);
  const code = useMutation({
    mutationFn: async () => unwrap(await api.POST('/api/phone/code')),
  });
  if (phone.isPending) return <Waiting rows={3} height={80} />;
  if (phone.error) return <Trouble whole error={phone.error} onRetry={() => phone.refetch()} />;
  const { address, doorstep, fingerprint, doorstep_qr } = phone.data;
  const secure = window.isSecureContext;
  return (
    <Page name="Use it on your phone" title="Use it on your phone.">
      <div className={classes.column}>
        {address === '' && <NotServed asking={phone.isFetching} onCheck={() => phone.refetch()} />}
        {!secure && (
          <Text role="alert">
            This page was opened without encryption from another machine, so the browser gives it no
            position, no camera and no offline storage.
          </Text>
        )}
        {address !== '' && (
          <ol className={classes.steps}>
            {doorstep !== '' && (
              <>
                <li>
                  <b>Get the certificate.</b> The phone joins the same network as this machine and
                  opens <a href={doorstep}>{doorstep}</a>. The certificate belongs to this Limpet
                  alone: it lets the phone recognise it.
                  <Square svg={doorstep_qr} label={`Square code of ${doorstep}`} />
                </li>
                <li>
                  <b>Compare, then trust it.</b> Check that the phone shows this fingerprint. If it
                  differs, somebody else is in between:
                  <code className={classes.fingerprint}>{fingerprint}</code>
                  On Android: Settings, Security, Install a certificate, CA certificate. On an
                  iPhone: install the profile, then Settings, General, About, Certificate trust. It
                  is valid only for private networks, not for any site on the internet.
                </li>
              </>
            )}
            <li>
              <b>Sign the phone in.</b> A code that works once, for ten minutes, so you needn’t type
              a password on the road.
              <div>
                <Button variant="filled" loading={code.isPending} onClick={() => code.mutate()}>
                  {code.data ? 'Show another code' : 'Show a code'}
                </Button>
              </div>
              <Refusal error={code.error} />
              {code.data && (
                <>
                  <Square svg={code.data.qr} label="Square code that signs a phone in" />
                  <span>
                    Or open <b>{address}/phone/in</b> and type{' '}
                    <b className={classes.code}>{code.data.code}</b>
                  </span>
                </>
              )}
            </li>
            <li>
              <b>Install it.</b> In the browser’s menu: Add to home screen, or Install. Then it
              opens without signal, and your notes wait on the phone until they can be sent.
            </li>
          </ol>
        )}
      </div>
    </Page>
  );
}

/** How this Limpet is started so that a phone reaches it. */
const COMMAND = './limpet start --lan';

interface NotServedProps {
  asking: boolean;
  onCheck: () => void;
}

/** This machine alone is served: the command to start it with, what that does, and whether it worked. */
function NotServed({ asking, onCheck }: NotServedProps) {
  const [checked, setChecked] = useState(false);
  return (
    <>
      <Text role="alert">A phone can’t reach this Limpet yet: it serves this machine alone.</Text>
      <ol className={classes.steps}>
        <li>
          <b>Stop Limpet.</b> Press Ctrl-C in the window where it runs. Nothing is lost.
        </li>
        <li>
          <b>Start it again for your network.</b> In the same folder:
          <code className={classes.fingerprint}>{COMMAND}</code>
          <CopyButton value={COMMAND}>
            {({ copied, copy }) => (
              <Button onClick={copy}>{copied ? 'Copied' : 'Copy the command'}</Button>
            )}
          </CopyButton>
          <span>
            It then serves your own network too, encrypted. Every phone still has to sign in, and
            nothing is open to the internet.
          </span>
        </li>
        <li>
          <b>Check that it worked.</b> The steps for the phone then stand here.
          <div>
            <Button
              variant="filled"
              loading={asking}
              onClick={() => {
                setChecked(true);
                onCheck();
              }}
            >
              Check
            </Button>
          </div>
          {checked && !asking && (
            <span role="status">
              It still serves this machine alone. Was it started with --lan, in this folder?
            </span>
          )}
        </li>
      </ol>
      <p>
        Behind a proxy of your own that speaks https, set LIMPET_HOSTS and LIMPET_SCHEME=https
        instead.
      </p>
    </>
  );
}

/** A picture that the server drew; shown as an image, so that nothing in it can run. */
function Square({ svg, label }: { svg: string; label: string }) {
  return (
    <img
      className={classes.square}
      src={`data:image/svg+xml;utf8,${encodeURIComponent(svg)}`}
      alt={label}
    />
  );
}
