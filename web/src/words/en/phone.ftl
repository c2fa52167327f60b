### Words of phone.

## TakePage.tsx

use-it-on-your-phone-title = Use it on your phone.
this-page-was-opened-without =
    This page was opened without encryption from another machine, so the browser gives it no position, no
    camera and no offline storage.
get-the-certificate-the-phone =
    <b>Get the certificate.</b> The phone joins the same network as this machine and opens <a>{ $doorstep }</a>.
    The certificate belongs to this Limpet alone: it lets the phone recognise it.
square-code-of = Square code of { $doorstep }
compare-then-trust-it-check =
    <b>Compare, then trust it.</b> Check that the phone shows this fingerprint. If it differs, somebody else
    is in between:<code>{ $fingerprint }</code>On Android: Settings, Security, Install a certificate, CA
    certificate. On an iPhone: install the profile, then Settings, General, About, Certificate trust. It is
    valid only for private networks, not for any site on the internet.
sign-the-phone-in-a =
    <b>Sign the phone in.</b> A code that works once, for ten minutes, so you needn’t type a password on the
    road.
show-another-code = Show another code
show-a-code = Show a code
square-code-that-signs-a = Square code that signs a phone in
or-open-phone-in-and = Or open <b>{ $address }/phone/in</b> and type <b2>{ $code }</b2>
install-it-in-the-browsers =
    <b>Install it.</b> In the browser’s menu: Add to home screen, or Install. Then it opens without signal,
    and your notes wait on the phone until they can be sent.
a-phone-cant-reach-this = A phone can’t reach this Limpet yet: it serves this machine alone.
stop-limpet-press-ctrl-c = <b>Stop Limpet.</b> Press Ctrl-C in the window where it runs. Nothing is lost.
start-it-again-for-your = <b>Start it again for your network.</b> In the same folder:<code>{ $command }</code>
copied = Copied
copy-the-command = Copy the command
it-then-serves-your-own =
    It then serves your own network too, encrypted. Every phone still has to sign in, and nothing is open to
    the internet.
check-that-it-worked-the = <b>Check that it worked.</b> The steps for the phone then stand here.
check = Check
it-still-serves-this-machine = It still serves this machine alone. Was it started with --lan, in this folder?
behind-a-proxy-of-your =
    Behind a proxy of your own that speaks https, set LIMPET_HOSTS and LIMPET_SCHEME=https instead.

## PhoneIn.tsx

sign-this-phone-in = Sign this phone in
sign-in-as = Sign in as { $username }?
what-you-log-on-this =
    What you log on this phone goes to the account <b>{ $username }</b> from then on. Go on only if that is
    yours.
you-are-signed-in-here = You are signed in here as <b>{ $before }</b>; that ends.
sign-in-as-act = Sign in as { $username }
sign-this-phone-in-title = Sign this phone in.
on-the-laptop-more-use = On the laptop: More, Use it on your phone, Show a code.
the-code = The code
