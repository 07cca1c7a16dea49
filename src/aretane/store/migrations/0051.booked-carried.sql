-- depends: 0050.booked-with-the-figures
-- What was booked before.
UPDATE shot_fact JOIN booked USING (game_id, shot_id)
  SET shot_fact.promised = booked.promised, shot_fact.decision = booked.decision, shot_fact.potting = booked.potting,
    shot_fact.position = booked.position, shot_fact.luck = booked.luck;
