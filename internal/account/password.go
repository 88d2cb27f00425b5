package account

import (
	"crypto/rand"
	"crypto/sha256"
	"crypto/subtle"
	_ "embed"
	"encoding/base64"
	"encoding/hex"
	"fmt"
	"runtime"
	"strings"
	"sync"
	"unicode"
	"unicode/utf8"

	"golang.org/x/crypto/argon2"
)

// Cost of a password hash: argon2id with 19 MiB, two passes and one lane, the
// least that is recommended for sign-in; a small server with one core takes a
// tenth of a second or so.
const (
	hashTime    = 2
	hashMemory  = 19 << 10 // KiB
	hashThreads = 1
	hashLength  = 32
	saltLength  = 16
)

// Bounds of a password, in characters. There are no rules of composition: length
// is what counts.
const (
	shortest = 10
	longest  = 200
)

// hashing keeps a flood of sign-ins from taking all memory: each hash takes 19 MB.
var hashing = make(chan struct{}, max(2, runtime.GOMAXPROCS(0)))

//go:embed common.txt
var commonText string

// common are words and rows of keys that passwords are made of too often, in lower case.
var common = sync.OnceValue(func() map[string]bool {
	list := map[string]bool{}
	for word := range strings.Lines(commonText) {
		list[strings.TrimSpace(word)] = true
	}
	return list
})

// isCommon reports whether a password is one of those that are tried first: a common word,
// once or twice, with figures and signs before and after it, or nothing but these.
func isCommon(password string) bool {
	password = strings.ToLower(strings.Join(strings.Fields(password), ""))
	word := strings.TrimFunc(password, func(r rune) bool { return !unicode.IsLetter(r) })
	half := word[:len(word)/2]
	return word == "" || common()[password] || common()[word] || half+half == word && common()[half]
}

// CheckPassword says what is wrong with a new password.
func CheckPassword(password, login string) error {
	switch n := utf8.RuneCountInString(password); {
	case n < shortest:
		return fmt.Errorf("the password has %d characters; it needs at least %d", n, shortest)
	case n > longest:
		return fmt.Errorf("the password is longer than %d characters", longest)
	case login != "" && strings.Contains(strings.ToLower(password), strings.ToLower(login)) && n < 2*len(login)+shortest:
		return fmt.Errorf("the password must not be made of the sign-in name")
	case strings.Count(password, password[:1]) == len(password):
		return fmt.Errorf("the password is one character repeated")
	case isCommon(password):
		return fmt.Errorf("the password is one that many people use, and that is tried first; take another, such as four words that you know and nobody would put together")
	}
	return nil
}

// hashPassword returns the argon2id hash of a password with its parameters, as
// $argon2id$v=19$m=19456,t=2,p=1$salt$hash.
func hashPassword(password string) string {
	salt := make([]byte, saltLength)
	_, _ = rand.Read(salt) // never fails
	return fmt.Sprintf("$argon2id$v=%d$m=%d,t=%d,p=%d$%s$%s", argon2.Version, hashMemory, hashTime, hashThreads,
		base64.RawStdEncoding.EncodeToString(salt), base64.RawStdEncoding.EncodeToString(derive(password, salt, hashTime, hashMemory, hashThreads)))
}

func derive(password string, salt []byte, time, memory uint32, threads uint8) []byte {
	hashing <- struct{}{}
	defer func() { <-hashing }()
	return argon2.IDKey([]byte(password), salt, time, memory, threads, hashLength)
}

// noPassword stands for the hash of an account that there is not, so that asking
// for one takes as long as for one that there is.
var noPassword = fmt.Sprintf("$argon2id$v=%d$m=%d,t=%d,p=%d$%s$%s", argon2.Version, hashMemory, hashTime, hashThreads,
	base64.RawStdEncoding.EncodeToString(make([]byte, saltLength)), base64.RawStdEncoding.EncodeToString(make([]byte, hashLength)))

func passwordMatches(password, encoded string) bool {
	var version int
	var memory, time uint32
	var threads uint8
	parts := strings.Split(encoded, "$")
	if len(parts) != 6 || parts[1] != "argon2id" {
		return false
	}
	if _, err := fmt.Sscanf(parts[2]+" "+parts[3], "v=%d m=%d,t=%d,p=%d", &version, &memory, &time, &threads); err != nil || version != argon2.Version {
		return false
	}
	salt, err := base64.RawStdEncoding.DecodeString(parts[4])
	if err != nil {
		return false
	}
	want, err := base64.RawStdEncoding.DecodeString(parts[5])
	return err == nil && subtle.ConstantTimeCompare(want, derive(password, salt, time, memory, threads)) == 1
}

// NewSecret returns 256 random bits as text, and the hash that is stored of it.
func NewSecret() (secret, hash string) {
	secret = rand.Text() + rand.Text()
	return secret, HashSecret(secret)
}

// HashSecret is SHA-256: enough for secrets that are random themselves.
func HashSecret(secret string) string {
	sum := sha256.Sum256([]byte(secret))
	return hex.EncodeToString(sum[:])
}
