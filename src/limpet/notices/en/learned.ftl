### What Limpet learned to work out better, oldest first.

learned_lfp = A full LFP pack is recognised by its resting volts, so the start is known better.
learned_label = A pack may hold more than its label says.
learned_display = A display shows only whole steps, so half a step is added to a trip meter or an odometer.
learned_road =
    Without a meter, consumption starts from this ride’s speed, load, hills and wind, not from an average of such vehicles.
learned_hills = The range is for rides as hilly as this one, there and back.
learned_promise =
    “Plan on” now holds for weather like this ride’s and for some months. On similar days the range varies less than over a year.
learned_pulls =
    Where a log shows the current, the cut-off comes at the hardest pulls in it, however long you rolled between them.
learned_other = Smaller corrections to how it is worked out.
