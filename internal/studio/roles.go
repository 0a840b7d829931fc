package studio

import (
	"context"
	_ "embed"
	"fmt"
	"slices"
	"strings"

	"github.com/google/uuid"
)

// Role is what an account may do; roles.txt says it operation by operation.
type Role string

// The roles. A trainer teaches: protocols and strokes, no clients. A trainee treats
// clients of their own. The front desk sees how to reach clients and when they come.
const (
	Owner        Role = "owner"
	Practitioner Role = "practitioner"
	Trainer      Role = "trainer"
	Trainee      Role = "trainee"
	FrontDesk    Role = "front-desk"
)

// Roles lists the roles in the order of the columns of roles.txt.
var Roles = [...]Role{Owner, Practitioner, Trainer, Trainee, FrontDesk}

// Scope is what of an operation a role is shown.
type Scope string

// The scopes.
const (
	All     Scope = "all"
	Own     Scope = "own"     // only clients and appointments that they treat themselves
	Contact Scope = "contact" // nothing about health
	None    Scope = "-"       // refused
)

// Outsider is who asks without an account.
type Outsider string

// Those who ask without an account.
const (
	Tablet  Outsider = "tablet" // a session locked while a client holds the tablet
	ByLink  Outsider = "link"
	Anybody Outsider = "anybody"
)

//go:embed roles.txt
var rolesText string

// right is one line of roles.txt.
type right struct {
	scopes [len(Roles)]Scope
	others []Outsider
}

// rights are the lines of roles.txt by operation.
var rights = readRoles(rolesText)

func readRoles(text string) map[string]right {
	out := map[string]right{}
	for line := range strings.Lines(text) {
		if i := strings.IndexByte(line, '#'); i >= 0 {
			line = line[:i]
		}
		f := strings.Fields(line)
		if len(f) == 0 {
			continue
		}
		if _, twice := out[f[0]]; twice || len(f) < 1+len(Roles) {
			panic("studio: roles.txt: line of " + f[0])
		}
		var r right
		for i := range Roles {
			r.scopes[i] = Scope(f[1+i])
			if !slices.Contains([]Scope{All, Own, Contact, None}, r.scopes[i]) {
				panic(fmt.Sprintf("studio: roles.txt: %s has no scope %q", f[0], f[1+i]))
			}
		}
		for _, who := range f[1+len(Roles):] {
			r.others = append(r.others, Outsider(who))
		}
		out[f[0]] = r
	}
	return out
}

// Operations lists the operations of roles.txt by name.
func Operations() []string {
	out := make([]string, 0, len(rights))
	for op := range rights {
		out = append(out, op)
	}
	slices.Sort(out)
	return out
}

// Scope returns what of an operation the role is shown. It panics where roles.txt has no
// such operation.
func (r Role) Scope(operation string) Scope {
	row, ok := rights[operation]
	if !ok {
		panic("studio: roles.txt has no operation " + operation)
	}
	i := slices.Index(Roles[:], r)
	if i < 0 {
		return None
	}
	return row.scopes[i]
}

// Rights returns what of each operation the role is shown, without those it is refused.
func (r Role) Rights() map[string]Scope {
	out := map[string]Scope{}
	for op := range rights {
		if s := r.Scope(op); s != None {
			out[op] = s
		}
	}
	return out
}

// OpenTo reports whether an operation may be asked without an account.
func OpenTo(operation string, who Outsider) bool {
	return slices.Contains(rights[operation].others, who)
}

// Actor is who asks.
type Actor struct {
	Studio       uuid.UUID
	Account      uuid.UUID
	Name         string
	Role         Role
	Practitioner *uuid.UUID
}

// May returns ErrForbidden where the actor's role is refused the operation.
func (a *Actor) May(operation string) error {
	if a.Role.Scope(operation) == None {
		return ErrForbidden
	}
	return nil
}

// NoHealth reports whether nothing about health may be shown to the actor in an operation.
func (a *Actor) NoHealth(operation string) bool {
	return a.Role.Scope(operation) == Contact
}

// MayVisit returns ErrNotYours where the actor may ask the operation of appointments of
// their own only and this is a colleague's.
func (a *Actor) MayVisit(operation string, v *Visit) error {
	if a.Role.Scope(operation) == Own && (a.Practitioner == nil || *a.Practitioner != v.Practitioner) {
		return ErrNotYours
	}
	return a.May(operation)
}

// MayClient returns ErrNotYours where the actor may ask the operation of clients of their
// own only, and has no appointment with this one.
func (a *Actor) MayClient(ctx context.Context, tx Tx, operation string, client uuid.UUID) error {
	if a.Role.Scope(operation) != Own {
		return a.May(operation)
	}
	treats, err := a.Treats(ctx, tx, client)
	if err == nil && !treats {
		return ErrNotYours
	}
	return err
}

// Treats reports whether the actor is a practitioner who has, or had, an appointment with a
// client.
func (a *Actor) Treats(ctx context.Context, tx Tx, client uuid.UUID) (bool, error) {
	if a.Practitioner == nil {
		return false, nil
	}
	return tx.Treats(ctx, *a.Practitioner, client)
}
