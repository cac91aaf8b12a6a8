"""Days: how long paint stays open and when it is dry, what that asks of the calendar, and a plan of sittings that obeys it.

`drying` is the model and `belief` what notes teach it; `calendar` cuts free time into sittings, `ical` reads and writes calendars;
`tasks` says what is to be done and in which relation, `schedule` lays it into the sittings, `forecast` says how sure the date is.
"""
