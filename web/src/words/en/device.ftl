### Words of device.

## clock.ts

ahead-of = ahead of
behind = behind
this-phones-clock-is-the =
    This phone’s clock is { $words } { $ahead_s } the server’s. Set it right before you note more: entries
    carry its time.
forward = forward
back = back
this-phones-clock-jumped-min =
    This phone’s clock jumped { $minutes } min { $jump_s } just now. Entries from here on carry the new time:
    look at the last ones before you end.
