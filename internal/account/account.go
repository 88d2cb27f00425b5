// Package account says who somebody is: passwords, sessions, tokens, and the
// pace at which they can be tried.
package account

import (
	"context"
	"errors"
	"fmt"
	"regexp"
	"strings"
	"time"

	"jantrel/core/roles"
	"jantrel/internal/store"
)

// Lifetimes.
const (
	SessionIdle = 14 * 24 * time.Hour // a session unused for so long ends
	firstLink   = 24 * time.Hour
	maxToken    = 366 * 24 * time.Hour
)

// Errors that somebody who signs in meets. They say nothing of which part is wrong.
var (
	ErrWrong    = errors.New("the sign-in name or the password is wrong")
	ErrPassword = errors.New("the present password is wrong")
)

// WaitError asks for patience after failed tries.
type WaitError struct{ Wait time.Duration }

func (e *WaitError) Error() string {
	seconds := int((e.Wait + time.Second - 1) / time.Second)
	switch {
	case seconds >= 120:
		return fmt.Sprintf("too many failed tries; try again in %d minutes", (seconds+59)/60)
	case seconds == 1:
		return "too many failed tries; try again in a second"
	}
	return fmt.Sprintf("too many failed tries; try again in %d seconds", seconds)
}

// Service knows accounts. It is safe for use at the same time.
type Service struct {
	store   *store.Store
	clock   func() time.Time
	limiter *limiter
}

// New makes a service over a store.
func New(s *store.Store, clock func() time.Time) *Service {
	return &Service{s, clock, newLimiter(clock)}
}

// Store is where the service keeps accounts.
func (s *Service) Store() *store.Store { return s.store }

var loginPattern = regexp.MustCompile(`^[\p{L}\p{N}][\p{L}\p{N}._@+-]{1,79}$`)

// maxName is how many bytes a name has at most.
const maxName = 120

var errLongName = fmt.Errorf("the name is longer than %d bytes", maxName)

// Add makes an account.
func (s *Service) Add(ctx context.Context, login, name, password string, admin bool) (store.Account, error) {
	login, name = strings.ToLower(strings.TrimSpace(login)), strings.TrimSpace(name)
	if !loginPattern.MatchString(login) {
		return store.Account{}, fmt.Errorf("the sign-in name %q does not do: 2 to 80 letters, digits and . _ @ + -, the first a letter or digit", login)
	}
	if name == "" {
		name = login
	}
	if len(name) > maxName {
		return store.Account{}, errLongName
	}
	if err := CheckPassword(password, login); err != nil {
		return store.Account{}, err
	}
	return s.store.AddAccount(ctx, store.Account{Login: login, Name: name, PasswordHash: hashPassword(password), Admin: admin, CreatedAt: s.clock().UTC().Format(time.RFC3339)})
}

// AddWithoutPassword makes an account that cannot sign in with a password: the
// demo's, which are entered by a click.
func (s *Service) AddWithoutPassword(ctx context.Context, login, name string, admin bool) (store.Account, error) {
	return s.store.AddAccount(ctx, store.Account{Login: login, Name: name, Admin: admin, CreatedAt: s.clock().UTC().Format(time.RFC3339)})
}

// SignedIn is a session that has just begun.
type SignedIn struct {
	Account store.Account
	Secret  string    // of the session, for a cookie
	Device  string    // of the device, for a cookie that stays
	Expires time.Time // of the session
}

// SignIn checks a password and begins a session. address is where the request
// came from, device the secret of the device's cookie, if it has one.
func (s *Service) SignIn(ctx context.Context, login, password, address, device string) (SignedIn, error) {
	login = strings.ToLower(strings.TrimSpace(login))
	account, err := s.store.AccountBy(ctx, "login", login)
	if err != nil && !errors.Is(err, store.ErrNoAccount) {
		return SignedIn{}, err
	}
	known := false
	if err == nil && device != "" {
		if known, err = s.store.KnowsDevice(ctx, HashSecret(device), account.ID); err != nil {
			return SignedIn{}, err
		}
	}
	if !known {
		device = ""
	}
	keys := tryKeys(address, login, device)
	if wait := s.limiter.try(keys); wait > 0 {
		return SignedIn{}, &WaitError{wait}
	}
	hash := account.PasswordHash
	if hash == "" {
		hash = noPassword
	}
	if !passwordMatches(password, hash) || account.ID == 0 || account.Disabled {
		return SignedIn{}, ErrWrong
	}
	s.limiter.succeeded(keys)
	return s.Begin(ctx, account, device)
}

// Begin begins a session of an account whose owner has proven themselves. device
// is the secret of a device that the account knows, or empty.
func (s *Service) Begin(ctx context.Context, account store.Account, device string) (SignedIn, error) {
	secret, hash := NewSecret()
	now := s.clock()
	in := SignedIn{Account: account, Secret: secret, Device: device, Expires: now.Add(SessionIdle)}
	if err := s.store.AddSession(ctx, hash, account, now, in.Expires); err != nil {
		return SignedIn{}, err
	}
	if device == "" {
		var deviceHash string
		in.Device, deviceHash = NewSecret()
		if err := s.store.AddDevice(ctx, deviceHash, account.ID, now); err != nil {
			return SignedIn{}, err
		}
	}
	return in, nil
}

// Session returns whose session a secret is of.
func (s *Service) Session(ctx context.Context, secret string) (store.Account, error) {
	now := s.clock()
	account, seen, err := s.store.SessionAccount(ctx, HashSecret(secret), now)
	if err == nil && now.Sub(seen) > time.Hour {
		// Where this cannot be written, as on a full disk, the session ends the sooner.
		_ = s.store.TouchSession(ctx, HashSecret(secret), now, now.Add(SessionIdle))
	}
	return account, err
}

// Sessions lists the sessions of an account, the newest first.
func (s *Service) Sessions(ctx context.Context, account int64) ([]store.Session, error) {
	return s.store.Sessions(ctx, account, s.clock())
}

// SignOut ends a session.
func (s *Service) SignOut(ctx context.Context, secret string) error {
	return s.store.EndSession(ctx, HashSecret(secret))
}

// SignOutEverywhere ends all sessions of an account but the one of a secret, which
// may be empty.
func (s *Service) SignOutEverywhere(ctx context.Context, account int64, but string) error {
	return s.store.EndSessions(ctx, account, HashSecret(but))
}

// ChangePassword gives an account another password and ends its other sessions and its
// tokens. It is refused where the account has been changed or disabled since it was read.
func (s *Service) ChangePassword(ctx context.Context, account store.Account, present, next, session string) error {
	keys := map[string]int{fmt.Sprintf("account %d", account.ID): freeTries}
	if wait := s.limiter.try(keys); wait > 0 {
		return &WaitError{wait}
	}
	if account.PasswordHash != "" && !passwordMatches(present, account.PasswordHash) {
		return ErrPassword
	}
	s.limiter.succeeded(keys)
	return s.setPassword(ctx, account, &account.PasswordHash, next, session)
}

// SetPassword gives an account another password without asking for the present
// one, and ends all sessions but one, and all tokens.
func (s *Service) SetPassword(ctx context.Context, account store.Account, next, session string) error {
	return s.setPassword(ctx, account, nil, next, session)
}

func (s *Service) setPassword(ctx context.Context, account store.Account, before *string, next, session string) error {
	if err := CheckPassword(next, account.Login); err != nil {
		return err
	}
	return s.store.ChangePassword(ctx, account.ID, before, hashPassword(next), HashSecret(session))
}

// FirstLink returns the secret of a one-time link to make the first administrator,
// or nothing where there is an account already.
func (s *Service) FirstLink(ctx context.Context) (string, error) {
	has, err := s.store.HasAccount(ctx)
	if err != nil || has {
		return "", err
	}
	secret, hash := NewSecret()
	return secret, s.store.AddFirstLink(ctx, hash, s.clock().Add(firstLink))
}

// FirstLinkHolds reports whether the one-time link can still be used.
func (s *Service) FirstLinkHolds(ctx context.Context, secret string) (bool, error) {
	return s.store.FirstLinkHolds(ctx, HashSecret(secret), s.clock())
}

// First makes the first administrator by the one-time link, and signs them in.
func (s *Service) First(ctx context.Context, secret, login, name, password string) (SignedIn, error) {
	holds, err := s.FirstLinkHolds(ctx, secret)
	if err != nil {
		return SignedIn{}, err
	}
	if !holds {
		return SignedIn{}, store.ErrLinkUsed
	}
	if err := CheckPassword(password, login); err != nil {
		return SignedIn{}, err
	}
	if len(name) > maxName {
		return SignedIn{}, errLongName
	}
	if !loginPattern.MatchString(strings.TrimSpace(login)) { // before the link is used up
		_, err := s.Add(ctx, login, name, password, true)
		return SignedIn{}, err
	}
	if err := s.store.UseFirstLink(ctx, HashSecret(secret), s.clock()); err != nil {
		return SignedIn{}, err
	}
	account, err := s.Add(ctx, login, name, password, true)
	if err != nil {
		return SignedIn{}, err
	}
	return s.Begin(ctx, account, "")
}

// tokenPrefix makes a token that has leaked into a text easy to find.
const tokenPrefix = "jantrel_"

// NewToken makes a token and returns its text, which is not kept.
func (s *Service) NewToken(ctx context.Context, account, program int64, name string, role roles.Role, expires time.Time) (string, error) {
	now := s.clock()
	if !expires.After(now) || expires.Sub(now) > maxToken {
		return "", errors.New("a token expires after today and within a year")
	}
	secret, _ := NewSecret()
	secret = tokenPrefix + secret
	_, err := s.store.AddToken(ctx, store.Token{
		SecretHash: HashSecret(secret), AccountID: account, ProgramID: program, Name: strings.TrimSpace(name), Role: role,
		CreatedAt: now.UTC().Format("2006-01-02T15:04:05Z"), ExpiresAt: expires.UTC().Format("2006-01-02T15:04:05Z"),
	})
	return secret, err
}

// Token returns the token that a text is of, and its account.
func (s *Service) Token(ctx context.Context, secret string) (store.Token, store.Account, error) {
	return s.store.TokenAccount(ctx, HashSecret(secret), s.clock())
}
