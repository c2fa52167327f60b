### Words of account.

## SignIn.tsx

sign-in = Sign in
how-far-does-a-small =
    How far does a small pack take you, and how sure is that? Ride, write down what you read, and know your
    watt-hours per mile.
a-new-account = A new account
your-account = Your account
password = Password
create-and-sign-in = Create and sign in
i-have-an-account = I have an account
create-an-account = Create an account
ask-whoever-runs-this-limpet = Ask whoever runs this Limpet: only they can make accounts.
the-island-of-skerrow = The island of Skerrow
a-made-up-mail-round =
    A made-up mail round: its vehicles, its packs and their range tests over two years. Look round, log a
    ride, try things out.
open-the-demo = Open the demo

## PasswordDialog.tsx

password-changed-other-devices-are = Password changed. Other devices are signed out.
every-other-session-is-signed = Every other session is signed out.
your-current-password = Your current password
the-new-password = The new password
eight-characters-or-more-not = Eight characters or more, not only digits
sign-out-elsewhere = Sign out elsewhere

## AccountPage.tsx

tests = Tests
samples = Samples
pictures = Pictures
signed-out-there = Signed out there.
your-account-stays = Your account stays.
the-demos-account = The demo’s account.
the-account-username = The account { $username }.
this-account-and-everything-in = This account and everything in it will be deleted on <b>{ $goes_at }</b>.
keep-the-account = Keep the account
signed-in-devices = Signed-in devices
somewhere-you-dont-know-sign = Somewhere you don’t know? Sign it out there, then change your password.
a-phone = A phone
a-computer = A computer
this-one = , this one
signed-in-since-used = signed in since { $made_at }, used { $seen_at }
sign-out-there-signed-in = Sign out there, signed in since { $made_at }
sign-out-there = Sign out there
what-it-holds = What it holds
what-the-account-holds = What the account holds
what-here = What
used = Used
at-most = At most
an-account-since-what-you =
    An account since { $since }. What you removed counts until it’s gone for good, after
    thirty days or when you empty it.
empty-the-removed = Empty the removed ({ $removed })
delete-the-account = Delete the account
export-all-of-it = Export all of it
export-what-you-want-to =
    Export what you want to keep first: the Logbook has each test as a bundle. The account is deleted a week
    later, with everything in it; until then you can keep it after all.
delete-the-account-asked = Delete the account?
every-test-plan-and-piece =
    Every test, plan and piece of kit goes with it in a week, and it’s signed out everywhere else now.
your-password = Your password
keep-it = Keep it
delete-in-a-week = Delete in a week
what-you-removed-is-gone = What you removed is gone for good.
empty-the-removed-asked = Empty the removed?
that-you-removed-cant-be =
    { $removed ->
        [one] 1 thing
       *[other] { $removed } things
    } that you removed can’t be brought back after this.
leave-it = Leave it
empty-it = Empty it

## SignOutDialog.tsx

sign-out = Sign out?
sign-out-act = Sign out
stay-signed-in = Stay signed in
not-been-sent-yet-keep =
    { $unsent ->
        [one]
            1 thing you noted has not been sent yet. Keep it, and it stays on this device, locked, until you sign in here
            again. Everything else of yours goes from it.
       *[other]
            { $unsent } things you noted have not been sent yet. Keep them, and they stay on this device, locked, until
            you sign in here again. Everything else of yours goes from it.
    }
youre-offline-you-cant-sign = You’re offline: you can’t sign out, or back in, until there is a signal again.
throw-them-away =
    { $unsent ->
        [one] Throw it away
       *[other] Throw them away
    }
keep-them =
    { $unsent ->
        [one] Keep it
       *[other] Keep them
    }

## SignBackIn.tsx

you-have-been-signed-out = You have been signed out.
nothing-is-lost-that-you =
    { $waiting ->
        [0] Nothing is lost.
        [one] Nothing is lost: one thing that you noted is saved on this device, and sent once you are signed in.
       *[other]
            Nothing is lost: { $waiting } things that you noted are saved on this device, and sent once you are signed
            in.
    }
somebody-else-signs-in = Somebody else signs in
somebody-else-signs-in-title = Somebody else signs in?
go-back = Go back
open-the-demo-again = Open the demo again
password-of-username = Password of { $username }
sign-in-again = Sign in again

## useRenewDemo.ts

the-demo-is-reset = The demo is reset.
last-backed-up = Last backup of this Limpet: { $when }.
never-backed-up = This Limpet has no backup yet. Whoever runs it makes one with ./limpet backup.
