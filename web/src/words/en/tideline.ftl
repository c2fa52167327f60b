### Words of tideline.

## band.ts

better-than-the-forecasts-band = better than the forecast’s band
worse-than-the-forecasts-band = worse than the forecast’s band
within-the-forecast = within the forecast

## pieces.tsx

pack-pack = pack { $pack }
limped-after-the-end = Limped after the end
gauge = gauge

## labels.tsx

reserve-reserve = reserve { $reserve }
cut-off-cutoff = cut-off { $cutoff }

## Tideline.tsx

an-unknown-distance = an unknown distance
the-energy-left-is-not = the energy left is not known
of-the-energy-left = { $left } of the energy left
cut-off-came = ; cut-off came at { $cutoff }
cut-off-is-expected = ; cut-off is expected at { $cutoff } ({ $span })
tideline-ridden-ridden-ebbed-end = Tideline: { $ridden } ridden, { $ebbed }{ $end }.
down-to-the-reserve = It came down to the reserve, { $reserve }, at { $at }.
the-reserve-comes = The reserve, { $reserve }, is expected at { $at }.
so-much-left = , { $left } left
a-reading-in-words = { $at }: { $what }{ $left }
readings-in-words =
    { $more ->
        [0] Readings: { $said }.
       *[other] The last readings: { $said }.
    }
