package account_test

import (
	"errors"
	"fmt"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/program"
	"jantrel/core/roles"
	"jantrel/internal/account"
	"jantrel/internal/store"
)

const password = "seven lamps burn"

// desk is a service with a clock of its own.
type desk struct {
	*account.Service
	mu  sync.Mutex
	now time.Time
}

func (d *desk) wait(by time.Duration) {
	d.mu.Lock()
	defer d.mu.Unlock()
	d.now = d.now.Add(by)
}

func open(t *testing.T) *desk {
	t.Helper()
	s, err := store.Open(t.TempDir())
	require.NoError(t, err)
	t.Cleanup(func() { _ = s.Close() })
	d := &desk{now: time.Date(2027, 3, 23, 9, 0, 0, 0, time.UTC)}
	d.Service = account.New(s, func() time.Time {
		d.mu.Lock()
		defer d.mu.Unlock()
		return d.now
	})
	return d
}

func (d *desk) add(t *testing.T, login string, admin bool) store.Account {
	t.Helper()
	a, err := d.Add(t.Context(), login, "", password, admin)
	require.NoError(t, err)
	return a
}

func TestSignInAndOut(t *testing.T) {
	d := open(t)
	ann := d.add(t, "Ann", true)
	in, err := d.SignIn(t.Context(), " ANN ", password, "10.0.0.1", "")
	require.NoError(t, err)
	who, err := d.Session(t.Context(), in.Secret)
	require.NoError(t, err)
	assert.Equal(t, ann.ID, who.ID)
	require.NoError(t, d.SignOut(t.Context(), in.Secret))
	_, err = d.Session(t.Context(), in.Secret)
	assert.ErrorIs(t, err, store.ErrNotSignedIn, "a session that was signed out cannot be used again")

	one, _ := d.SignIn(t.Context(), "ann", password, "10.0.0.1", "")
	two, _ := d.SignIn(t.Context(), "ann", password, "10.0.0.1", "")
	require.NoError(t, d.SignOutEverywhere(t.Context(), ann.ID, one.Secret))
	_, err = d.Session(t.Context(), one.Secret)
	assert.NoError(t, err)
	_, err = d.Session(t.Context(), two.Secret)
	assert.ErrorIs(t, err, store.ErrNotSignedIn)

	d.wait(13 * 24 * time.Hour)
	_, err = d.Session(t.Context(), one.Secret)
	require.NoError(t, err)
	d.wait(13 * 24 * time.Hour)
	_, err = d.Session(t.Context(), one.Secret)
	assert.NoError(t, err, "use lengthens it")
	d.wait(15 * 24 * time.Hour)
	_, err = d.Session(t.Context(), one.Secret)
	assert.ErrorIs(t, err, store.ErrNotSignedIn)
}

func TestWhatIsWrongIsNotSaid(t *testing.T) {
	d := open(t)
	d.add(t, "ann", true)
	gone := d.add(t, "gone", false)
	disable(t, d.Store(), gone)
	for login, pass := range map[string]string{"ann": "another thing", "nobody": password, "gone": password, "": password, "ann ": ""} {
		_, err := d.SignIn(t.Context(), login, pass, "10.0.0.1", "")
		assert.Equal(t, account.ErrWrong, err, login)
	}
}

// A thousand wrong passwords from a stranger: the stranger waits, the owner does not.
func TestAStrangerLocksOnlyThemselvesOut(t *testing.T) {
	d := open(t)
	d.add(t, "ann", true)
	home, err := d.SignIn(t.Context(), "ann", password, "10.0.0.1", "")
	require.NoError(t, err)
	checked, waited := 0, 0
	for range 1000 {
		_, err := d.SignIn(t.Context(), "ann", "wrong wrong wrong", "10.6.6.6", "")
		var wait *account.WaitError
		if errors.As(err, &wait) {
			waited++
		} else {
			checked++
		}
	}
	assert.Equal(t, 5, checked, "the others are turned away before a password is looked at")
	assert.Equal(t, 995, waited)
	_, err = d.SignIn(t.Context(), "ann", password, "10.6.6.6", "")
	assert.ErrorContains(t, err, "too many failed tries; try again in a second", "the right one too: else a guess would be found out")
	_, err = d.SignIn(t.Context(), "ann", password, "10.0.0.9", "")
	assert.NoError(t, err, "from another address")
	_, err = d.SignIn(t.Context(), "ann", password, "10.6.6.6", home.Device)
	assert.NoError(t, err, "on a device that she has signed in on, even from there")
	_, err = d.SignIn(t.Context(), "bo", password, "10.6.6.6", home.Device)
	assert.Equal(t, account.ErrWrong, err, "the device helps its owner alone")
	d.wait(2 * time.Second)
	_, err = d.SignIn(t.Context(), "ann", password, "10.6.6.6", "")
	assert.NoError(t, err)
}

func TestGuessingManyNamesFromOneAddress(t *testing.T) {
	d := open(t)
	refused := 0
	for i := range 120 {
		_, err := d.SignIn(t.Context(), fmt.Sprintf("name%d", i), password, "10.6.6.6", "")
		var wait *account.WaitError
		if errors.As(err, &wait) {
			refused++
		}
	}
	assert.Equal(t, 70, refused)
}

func TestWaitsGrow(t *testing.T) {
	d := open(t)
	try := func() (time.Duration, bool) {
		_, err := d.SignIn(t.Context(), "ann", "wrong wrong wrong", "10.6.6.6", "")
		var wait *account.WaitError
		if errors.As(err, &wait) {
			return wait.Wait, true
		}
		return 0, false
	}
	for range 5 {
		try()
	}
	last := time.Duration(0)
	for range 6 {
		wait, ok := try()
		require.True(t, ok)
		assert.Greater(t, wait, last)
		last = wait
		d.wait(wait)
		_, ok = try()
		require.False(t, ok)
	}
}

func TestTriesAtTheSameTimeAllCount(t *testing.T) {
	d := open(t)
	d.add(t, "ann", true)
	var group sync.WaitGroup
	var mu sync.Mutex
	checked := 0
	for range 60 {
		group.Go(func() {
			_, err := d.SignIn(t.Context(), "ann", "wrong wrong wrong", "10.6.6.6", "")
			mu.Lock()
			defer mu.Unlock()
			if errors.Is(err, account.ErrWrong) {
				checked++
			}
		})
	}
	group.Wait()
	assert.LessOrEqual(t, checked, 5)
}

func TestPasswordsAreHashedAndChecked(t *testing.T) {
	d := open(t)
	ann := d.add(t, "ann", true)
	bo := d.add(t, "bo", true)
	assert.True(t, strings.HasPrefix(ann.PasswordHash, "$argon2id$v=19$m=19456,t=2,p=1$"))
	assert.NotEqual(t, ann.PasswordHash, bo.PasswordHash, "each with a salt of its own")
	for _, bad := range []string{"short", "aaaaaaaaaaaaaa", "ann-ann-ann", strings.Repeat("lamp ", 60)} {
		assert.Error(t, account.CheckPassword(bad, "ann"), bad)
	}
	for _, common := range []string{"password123", "P@ssw0rd2027!", "1234567890", "qwertyuiop", "QwertyQwerty1", "correct horse battery staple", "!!welcome!!2026", "1q2w3e4r5t", "12-34-56-78-90"} {
		assert.ErrorContains(t, account.CheckPassword(common, "ann"), "many people use", common)
	}
	for _, fine := range []string{"lämpä laivå", "my password is long", "seven lamps burn", "welcome to the harbour", "7 lamps 9 buoys"} {
		assert.NoError(t, account.CheckPassword(fine, "ann"), fine)
	}

	one, _ := d.SignIn(t.Context(), "ann", password, "10.0.0.1", "")
	two, _ := d.SignIn(t.Context(), "ann", password, "10.0.0.1", "")
	assert.ErrorIs(t, d.ChangePassword(t.Context(), ann, "not that one", "nine lamps burn", one.Secret), account.ErrPassword)
	assert.ErrorContains(t, d.ChangePassword(t.Context(), ann, password, "short", one.Secret), "at least 10")
	require.NoError(t, d.ChangePassword(t.Context(), ann, password, "nine lamps burn", one.Secret))
	_, err := d.Session(t.Context(), one.Secret)
	assert.NoError(t, err)
	_, err = d.Session(t.Context(), two.Secret)
	assert.ErrorIs(t, err, store.ErrNotSignedIn, "a new password ends other sessions")
	_, err = d.SignIn(t.Context(), "ann", password, "10.0.0.1", "")
	assert.Equal(t, account.ErrWrong, err)
}

func TestTheFirstLinkWorksOnce(t *testing.T) {
	d := open(t)
	lapsed, err := d.FirstLink(t.Context())
	require.NoError(t, err)
	secret, err := d.FirstLink(t.Context())
	require.NoError(t, err)
	_, err = d.First(t.Context(), lapsed, "mallory", "M", password)
	assert.ErrorIs(t, err, store.ErrLinkUsed, "an earlier link lapses")
	_, err = d.First(t.Context(), secret, "a", "A", password)
	assert.Error(t, err)
	_, err = d.First(t.Context(), secret, "ann", "Ann", "short")
	assert.Error(t, err)
	in, err := d.First(t.Context(), secret, "ann", "Ann", password)
	require.NoError(t, err, "what was wrong can be mended")
	assert.True(t, in.Account.Admin)
	_, err = d.First(t.Context(), secret, "mallory", "M", password)
	assert.ErrorIs(t, err, store.ErrLinkUsed)
	none, err := d.FirstLink(t.Context())
	require.NoError(t, err)
	assert.Empty(t, none)
}

// What is wrong with the name or the password does not use the link up.
func TestTheFirstLinkSurvivesMistakes(t *testing.T) {
	d := open(t)
	secret, err := d.FirstLink(t.Context())
	require.NoError(t, err)
	for _, wrong := range [][3]string{{"ann", strings.Repeat("x", 121), password}, {"a!", "Ann", password}, {"ann", "Ann", "short"}} {
		_, err := d.First(t.Context(), secret, wrong[0], wrong[1], wrong[2])
		require.Error(t, err)
	}
	_, err = d.First(t.Context(), secret, "ann", "Ann", password)
	assert.NoError(t, err)
}

func TestTheFirstLinkExpires(t *testing.T) {
	d := open(t)
	secret, err := d.FirstLink(t.Context())
	require.NoError(t, err)
	d.wait(25 * time.Hour)
	_, err = d.First(t.Context(), secret, "ann", "Ann", password)
	assert.ErrorIs(t, err, store.ErrLinkUsed)
}

func TestTheLastAdministratorStays(t *testing.T) {
	d := open(t)
	ann := d.add(t, "ann", true)
	change := func(id int64, c store.AccountChange) error {
		_, err := d.Store().ChangeAccount(t.Context(), id, c)
		return err
	}
	assert.ErrorIs(t, change(ann.ID, store.AccountChange{Admin: new(false)}), store.ErrLastAdmin)
	assert.ErrorIs(t, change(ann.ID, store.AccountChange{Disabled: new(true)}), store.ErrLastAdmin)
	d.add(t, "bo", true)
	assert.NoError(t, change(ann.ID, store.AccountChange{Disabled: new(true)}))
	_, err := d.Add(t.Context(), "BO", "", password, false)
	assert.ErrorIs(t, err, store.ErrLoginTaken)
	assert.ErrorIs(t, change(99, store.AccountChange{Admin: new(true)}), store.ErrNoAccount)
}

func TestTokens(t *testing.T) {
	d := open(t)
	ann := d.add(t, "ann", true)
	id, err := d.Store().Create(t.Context(), program.Program{Name: "P"}.Normal())
	require.NoError(t, err)
	_, err = d.NewToken(t.Context(), ann.ID, id, "old", roles.Viewer, d.now.Add(-time.Hour))
	assert.Error(t, err)
	_, err = d.NewToken(t.Context(), ann.ID, id, "for ever", roles.Viewer, d.now.AddDate(3, 0, 0))
	assert.Error(t, err)
	text, err := d.NewToken(t.Context(), ann.ID, id, "report", roles.Viewer, d.now.Add(48*time.Hour))
	require.NoError(t, err)
	token, who, err := d.Token(t.Context(), text)
	require.NoError(t, err)
	assert.Equal(t, ann.ID, who.ID)
	assert.Equal(t, roles.Viewer, token.Role)
	list, err := d.Store().Tokens(t.Context(), ann.ID, id)
	require.NoError(t, err)
	assert.NotContains(t, fmt.Sprint(list), text, "only its hash is stored")
	_, _, err = d.Token(t.Context(), text+"x")
	assert.ErrorIs(t, err, store.ErrNotSignedIn)
	d.wait(49 * time.Hour)
	_, _, err = d.Token(t.Context(), text)
	assert.ErrorIs(t, err, store.ErrNotSignedIn)
}

func disable(t *testing.T, s *store.Store, a store.Account) {
	t.Helper()
	_, err := s.ChangeAccount(t.Context(), a.ID, store.AccountChange{Disabled: new(true)})
	require.NoError(t, err)
}

// Whoever is disabled or demoted stays so, whatever of theirs is under way: a password that is
// being changed, a sign-in that has just been checked.
func TestADisabledAccountStaysDisabled(t *testing.T) {
	d := open(t)
	d.add(t, "root", true)
	for i := range 12 {
		a := d.add(t, fmt.Sprintf("ann%d", i), true)
		var both sync.WaitGroup
		both.Go(func() { _ = d.ChangePassword(t.Context(), a, password, "another pass phrase", "") }) // it may come first
		both.Go(func() {
			_, err := d.Store().ChangeAccount(t.Context(), a.ID, store.AccountChange{Admin: new(false), Disabled: new(true)})
			assert.NoError(t, err)
		})
		both.Wait()
		now, err := d.Store().AccountBy(t.Context(), "id", a.ID)
		require.NoError(t, err)
		assert.True(t, now.Disabled)
		assert.False(t, now.Admin)
		_, err = d.Begin(t.Context(), a, "")
		assert.ErrorIs(t, err, store.ErrChanged, "a sign-in on what was read before begins no session")
		for _, present := range []string{password, "another pass phrase"} { // whichever it is
			assert.Error(t, d.ChangePassword(t.Context(), now, present, "yet another one", ""))
		}
	}
}

// What is changed of an account is that alone, and another password ends all that the one
// before let in.
func TestAnotherPasswordEndsSessionsAndTokens(t *testing.T) {
	d := open(t)
	a := d.add(t, "ann", true)
	here, err := d.Begin(t.Context(), a, "")
	require.NoError(t, err)
	elsewhere, err := d.Begin(t.Context(), a, "")
	require.NoError(t, err)
	program, err := d.Store().Create(t.Context(), program.Program{Name: "P"})
	require.NoError(t, err)
	token, err := d.NewToken(t.Context(), a.ID, program, "Report", roles.Viewer, d.now.Add(48*time.Hour))
	require.NoError(t, err)
	listed, err := d.Store().TokensOf(t.Context(), a.ID)
	require.NoError(t, err)
	require.Len(t, listed, 1)
	assert.Equal(t, "P", listed[0].Program)
	renamed, err := d.Store().ChangeAccount(t.Context(), a.ID, store.AccountChange{Name: new("Anne")})
	require.NoError(t, err)
	assert.True(t, renamed.Admin)
	require.NoError(t, d.ChangePassword(t.Context(), renamed, password, "another pass phrase", here.Secret))
	_, err = d.Session(t.Context(), here.Secret)
	assert.NoError(t, err)
	_, err = d.Session(t.Context(), elsewhere.Secret)
	assert.ErrorIs(t, err, store.ErrNotSignedIn)
	_, _, err = d.Token(t.Context(), token)
	assert.ErrorIs(t, err, store.ErrNotSignedIn)
	_, err = d.Store().ChangeAccount(t.Context(), a.ID, store.AccountChange{Disabled: new(true)})
	assert.ErrorIs(t, err, store.ErrLastAdmin)
	_, err = d.Session(t.Context(), here.Secret)
	assert.NoError(t, err, "what was refused has changed nothing")
}

func TestASessionEndsHoweverMuchItIsUsed(t *testing.T) {
	d := open(t)
	in, err := d.Begin(t.Context(), d.add(t, "ann", true), "")
	require.NoError(t, err)
	for range 89 {
		d.wait(24 * time.Hour)
		_, err := d.Session(t.Context(), in.Secret)
		require.NoError(t, err)
	}
	d.wait(25 * time.Hour)
	_, err = d.Session(t.Context(), in.Secret)
	assert.ErrorIs(t, err, store.ErrNotSignedIn)
}
