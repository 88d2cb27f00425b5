package calendar

// MondayOf is the first day of the week that a day lies in.
func MondayOf(day Date) Date { return day.Add(1 - day.Weekday()) }
