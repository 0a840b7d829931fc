package httpapi

import (
	"context"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"softpalm/internal/studio/house"
)

// JoinLinkView is a link with which somebody chooses a password.
type JoinLinkView struct {
	Token string    `json:"token"`
	Until time.Time `json:"until"`
	// Mailed says that the mail server sends it too.
	Mailed bool `json:"mailed,omitempty"`
}

func joinLink(l *house.AccountLink, err error) (*body[JoinLinkView], error) {
	if err != nil {
		return nil, answer(err)
	}
	return reply(JoinLinkView(*l), nil)
}

func (h *handlers) registerPeople(api huma.API) {
	huma.Register(
		api,
		closed("list-people", http.MethodGet, "/api/people", "Those who work in the studio"),
		func(ctx context.Context, _ *struct{}) (*body[[]house.Colleague], error) {
			list, err := h.rooms.House.Colleagues(ctx, actor(ctx))
			return reply(list, err)
		},
	)
	huma.Register(
		api,
		closed("invite-person", http.MethodPost, "/api/people", "Invite somebody to work in the studio"),
		func(ctx context.Context, in *struct {
			Body struct {
				house.ColleagueFields
				Email string `json:"email" maxLength:"200"`
			}
		}) (*body[JoinLinkView], error) {
			return joinLink(h.rooms.House.Invite(ctx, actor(ctx), in.Body.Email, in.Body.ColleagueFields))
		},
	)
	huma.Register(
		api,
		closed("change-person", http.MethodPut, "/api/people/{id}", "Change somebody who works in the studio"),
		func(ctx context.Context, in *struct {
			ByID
			Body struct {
				house.ColleagueFields
				Revision int `json:"revision" minimum:"1"`
			}
		}) (*nothing, error) {
			return nil, answer(h.rooms.House.ChangeColleague(ctx, actor(ctx), in.ID, in.Body.Revision, in.Body.ColleagueFields))
		},
	)
	huma.Register(
		api,
		closed("new-password-link", http.MethodPost, "/api/people/{id}/password-link", "A link with which they choose a password"),
		func(ctx context.Context, in *ByID) (*body[JoinLinkView], error) {
			return joinLink(h.rooms.House.NewPasswordLink(ctx, actor(ctx), in.ID))
		},
	)
	huma.Register(
		api,
		closed("remove-factor", http.MethodPost, "/api/people/{id}/second-factor/removal", "Remove their second factor"),
		func(ctx context.Context, in *ByID) (*nothing, error) {
			return nil, answer(h.rooms.House.DropFactor(ctx, actor(ctx), in.ID))
		},
	)
	huma.Register(
		api,
		closed("close-account", http.MethodPost, "/api/people/{id}/leaving", "Close their account"),
		func(ctx context.Context, in *ByID) (*nothing, error) {
			return nil, answer(h.rooms.House.CloseAccount(ctx, actor(ctx), in.ID))
		},
	)
}

func (h *handlers) registerJoining(api huma.API) {
	huma.Register(
		api,
		open("forgotten-password", http.MethodPost, "/api/forgotten-password", "Ask for a link to choose a new password"),
		func(ctx context.Context, in *struct {
			Origin
			Body struct {
				Email string `json:"email" maxLength:"200"`
			}
		}) (*nothing, error) {
			return nil, answer(h.rooms.House.Forgotten(ctx, in.Body.Email, in.From))
		},
	)
	huma.Register(
		api,
		open("open-joining", http.MethodGet, "/api/join", "What a link to choose a password opens"),
		func(ctx context.Context, in *struct {
			Origin
			LinkToken
		}) (*body[*house.Joining], error) {
			v, err := h.rooms.House.OpenJoining(ctx, in.Token, in.From)
			return reply(v, err)
		},
	)
	type joined struct {
		Email string `json:"email"`
	}
	huma.Register(
		api,
		open("join", http.MethodPost, "/api/join", "Choose a password"),
		func(ctx context.Context, in *struct {
			Origin
			LinkToken
			Body struct {
				Password string `json:"password" maxLength:"800"`
			}
		}) (*body[joined], error) {
			email, err := h.rooms.House.Join(ctx, in.Token, in.Body.Password, in.From)
			return reply(joined{email}, err)
		},
	)
}

func (h *handlers) registerOwnAccount(api huma.API) {
	huma.Register(
		api,
		closed("change-password", http.MethodPut, "/api/password", "Change one's own password"),
		func(ctx context.Context, in *struct {
			Body struct {
				Current string `json:"current" maxLength:"800"`
				Next    string `json:"next" maxLength:"800"`
			}
		}) (*nothing, error) {
			return nil, answer(h.rooms.House.ChangePassword(ctx, signedIn(ctx), in.Body.Current, in.Body.Next))
		},
	)
	huma.Register(
		api,
		closed("list-sessions", http.MethodGet, "/api/sessions", "Where one is signed in"),
		func(ctx context.Context, _ *struct{}) (*body[[]house.SessionLine], error) {
			list, err := h.rooms.House.Sessions(ctx, signedIn(ctx))
			return reply(list, err)
		},
	)
	huma.Register(
		api,
		closed("end-session", http.MethodPost, "/api/sessions/{id}/end", "End one of one's sessions"),
		func(ctx context.Context, in *ByID) (*nothing, error) {
			return nil, answer(h.rooms.House.EndSession(ctx, actor(ctx), in.ID))
		},
	)
	huma.Register(
		api,
		closed("begin-factor", http.MethodPost, "/api/second-factor", "A secret to set up an authenticator app with"),
		func(ctx context.Context, _ *struct{}) (*body[*house.NewFactor], error) {
			f, err := h.rooms.House.BeginFactor(ctx, actor(ctx))
			return reply(f, err)
		},
	)
	type codes struct {
		Codes []string `json:"codes"`
	}
	huma.Register(
		api,
		closed("set-factor", http.MethodPut, "/api/second-factor", "Sign in with an authenticator app from now on"),
		func(ctx context.Context, in *struct {
			Body struct {
				Password string `json:"password" maxLength:"800"`
				Secret   string `json:"secret" maxLength:"100"`
				Code     string `json:"code" maxLength:"20"`
			}
		}) (*body[codes], error) {
			list, err := h.rooms.House.SetFactor(ctx, signedIn(ctx), in.Body.Password, in.Body.Secret, in.Body.Code)
			return reply(codes{list}, err)
		},
	)
	huma.Register(
		api,
		closed("drop-factor", http.MethodPost, "/api/second-factor/removal", "Sign in without an authenticator app again"),
		func(ctx context.Context, in *struct {
			Body struct {
				Password string `json:"password" maxLength:"800"`
			}
		}) (*nothing, error) {
			return nil, answer(h.rooms.House.DropOwnFactor(ctx, actor(ctx), in.Body.Password))
		},
	)
}
