package demo

import "jantrel/core/roles"

// Account is a made-up account of the demo: one of each role, and a second lead, as two agree.
type Account struct {
	Login  string
	Name   string
	Role   roles.Role
	Person string // the person of the demo who they are
	Admin  bool   // of the server too
}

// Accounts are who the demo can be entered as.
var Accounts = []Account{
	{"solveig", "Solveig Aune", roles.Administrator, "", true},
	{"matthias", "Matthias Ferreol", roles.Manager, "", false},
	{"ingrid", "Ingrid Oksanen", roles.Lead, "p01", false},
	{"hana", "Hana Kobayagi", roles.Lead, "p05", false},
	{"thandi", "Thandi Mokwena", roles.Member, "p13", false},
	{"petra", "Petra Lindqvar", roles.Viewer, "", false},
}
