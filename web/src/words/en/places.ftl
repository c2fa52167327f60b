### Words of places.

## places.ts

plan = Plan
choose-the-question-see-how = Choose the question, see how it ends
log-a-test-by-hand = Log a test by hand
logbook = Logbook
every-test-on-one-scale = Every test on one scale
which-uses-less-and-is = Which uses less, and is the difference real?
forecast = Forecast
a-trip-today-will-you = A trip today: will you get there?
vehicles-packs-riders-routes = Vehicles, packs, riders, routes
method = Method
formulas-sources-assumptions-cautions = Formulas, sources, assumptions, cautions
from-memory = From memory
claim-check = Claim check
can-a-makers-figure-be = Can a maker’s figure be true?
size-a-pack = Size a pack
how-big-a-pack-a = How big a pack a trip needs
new-plan = New plan
rehearse-a-ride-at-thirty = Rehearse a ride at thirty times the speed
signed-in-devices-what-it = Signed-in devices, what it holds, deleting it
certificate-sign-in-install = Certificate, sign-in, install
import-a-gpx-file-measure = Import a GPX file, measure a loop
import = Import
any-loggers-file-any-track = Any logger’s file, any track, a spreadsheet of rides
