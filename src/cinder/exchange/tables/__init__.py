"""Tables in and out: machines, rules, tariffs; the schedule, the materials, the offer."""
