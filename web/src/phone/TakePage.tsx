import { Button, CopyButton, Text } from '@mantine/core';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, unwrap } from '../api/client';
import { phoneQuery } from '../api/queries';
import { Page, Trouble, Waiting } from '../ui/Page';
import { Refusal } from '../ui/Refusal';
import { say } from '../words/en/phone.ftl';
import { Shown } from '../words/Shown';
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
    <Page name={say('use-it-on-your-phone')} title={say('use-it-on-your-phone-title')}>
      <div className={classes.column}>
        {address === '' && <NotServed asking={phone.isFetching} onCheck={() => phone.refetch()} />}
        {!secure && <Text role="alert">{say('this-page-was-opened-without')}</Text>}
        {address !== '' && (
          <ol className={classes.steps}>
            {doorstep !== '' && (
              <>
                <li>
                  <Shown
                    say={say}
                    id="get-the-certificate-the-phone"
                    values={{ doorstep }}
                    parts={{ b: <b />, a: <a href={doorstep}>{doorstep}</a> }}
                  />
                  <Square svg={doorstep_qr} label={say('square-code-of', { doorstep })} />
                </li>
                <li>
                  <Shown
                    say={say}
                    id="compare-then-trust-it-check"
                    values={{ fingerprint }}
                    parts={{ b: <b />, code: <code className={classes.fingerprint} /> }}
                  />
                </li>
              </>
            )}
            <li>
              <Shown say={say} id="sign-the-phone-in-a" parts={{ b: <b /> }} />
              <div>
                <Button variant="filled" loading={code.isPending} onClick={() => code.mutate()}>
                  {code.data ? say('show-another-code') : say('show-a-code')}
                </Button>
              </div>
              <Refusal error={code.error} />
              {code.data && (
                <>
                  <Square svg={code.data.qr} label={say('square-code-that-signs-a')} />
                  <span>
                    <Shown
                      say={say}
                      id="or-open-phone-in-and"
                      values={{ address, code: code.data.code }}
                      parts={{ b: <b />, b2: <b className={classes.code} /> }}
                    />
                  </span>
                </>
              )}
            </li>
            <li>
              <Shown say={say} id="install-it-in-the-browsers" parts={{ b: <b /> }} />
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
      <Text role="alert">{say('a-phone-cant-reach-this')}</Text>
      <ol className={classes.steps}>
        <li>
          <Shown say={say} id="stop-limpet-press-ctrl-c" parts={{ b: <b /> }} />
        </li>
        <li>
          <Shown
            say={say}
            id="start-it-again-for-your"
            values={{ command: COMMAND }}
            parts={{ b: <b />, code: <code className={classes.fingerprint} /> }}
          />
          <CopyButton value={COMMAND}>
            {({ copied, copy }) => (
              <Button onClick={copy}>{copied ? say('copied') : say('copy-the-command')}</Button>
            )}
          </CopyButton>
          <span>{say('it-then-serves-your-own')}</span>
        </li>
        <li>
          <Shown say={say} id="check-that-it-worked-the" parts={{ b: <b /> }} />
          <div>
            <Button
              variant="filled"
              loading={asking}
              onClick={() => {
                setChecked(true);
                onCheck();
              }}
            >
              {say('check')}
            </Button>
          </div>
          {checked && !asking && <span role="status">{say('it-still-serves-this-machine')}</span>}
        </li>
      </ol>
      <p>{say('behind-a-proxy-of-your')}</p>
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
