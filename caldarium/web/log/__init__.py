"""Log and Debrief: thermometers, the diary, what they teach, whether the plan was right, the next
course, and all courses together."""
